<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import Field from '../../components/Field.vue'
import OutlineDrawing from '../../drawing/OutlineDrawing.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import GainAndDiode from './GainAndDiode.vue'
import IdentifiedSheet from './IdentifiedSheet.vue'
import SixReadings from './SixReadings.vue'
import { useDesk } from './useDesk'
import { useIdentify, WAYS } from './useIdentify'

/** Three leads and no print: six readings of a diode range, a drawing to hold the probes to, and what they say. */
const bench = useBench()
const desk = useDesk()
const id = useIdentify()
const { draft, at, found, problem, outline } = id
const w = words.transistor.identify

const six = useTemplateRef('six')
const way = computed(() => WAYS[at.value] ?? WAYS[0])
const part = computed(() => (bench.part.value?.kind === 'transistor' ? bench.part.value : null))
const kept = ref('')

function take(text: string) {
  id.take(text)
  kept.value = ''
}
/** What each lead is called, where that is known. */
const captions = computed(() => {
  const f = found.value
  if (!f) return []
  const field = f.what === 'jfet' || f.what === 'mosfet'
  return ['1', '2', '3'].map((lead) =>
    lead === f.base
      ? field
        ? w.gate
        : w.base
      : lead === f.collector
        ? field
          ? w.drain
          : w.collector
        : lead === f.emitter
          ? field
            ? w.source
            : w.emitter
          : '',
  )
})
const canFind = computed(() => Boolean(found.value?.polarity))

function find() {
  const f = found.value
  if (!f?.polarity) return
  const kind = f.what === 'jfet' || f.what === 'mosfet' || f.what === 'darlington' ? f.what : 'bipolar'
  desk.wanted.type = part.value?.type_number ?? ''
  desk.wanted.ratings = {
    kind,
    polarity: f.polarity,
    material: f.material,
    package: outline.value?.package ?? null,
    pinout: f.pinout,
  }
  desk.page.value = 'equivalents'
}
async function keep() {
  const p = part.value
  if (p && (await id.keep(p.id))) kept.value = p.name
}
</script>

<template>
  <div class="desk-page page">
    <form class="desk hand" @submit.prevent="six?.take()">
      <p class="note">{{ w.intro }}</p>
      <div class="probe">
        <div class="drawn">
          <OutlineDrawing
            v-if="outline"
            :outline="outline"
            :red="Number(way[0]) - 1"
            :black="Number(way[1]) - 1"
            :captions="captions"
          />
          <Field v-slot="{ id: fid }" :label="w.outline">
            <ElSelect :id="fid" v-model="draft.package" :placeholder="outline?.package ?? ''">
              <ElOption v-for="p in id.shown.value" :key="p.package" :value="p.package" :label="p.package">
                {{ p.package }} · <span class="note">{{ p.about }}</span>
              </ElOption>
            </ElSelect>
          </Field>
        </div>
        <SixReadings ref="six" v-model="at" :typed="draft.typed" :problem="problem" @take="take" />
      </div>
      <div class="how">
        <Field
          v-slot="{ id: fid }"
          :label="w.celsius"
          :wrong="problem?.field === 'celsius' ? problem.detail : null"
        >
          <ElInput :id="fid" v-model="draft.celsius" placeholder="25" autocomplete="off" />
        </Field>
        <ElCheckbox v-model="draft.inCircuit">{{ w.inCircuit }}</ElCheckbox>
        <ElButton native-type="submit" type="primary">{{ w.swap }} <kbd>Enter</kbd></ElButton>
        <ElButton text @click="(id.clear(), six?.focus())">{{ w.again }}</ElButton>
      </div>
      <GainAndDiode />
    </form>
    <section class="desk says" aria-live="polite">
      <p
        v-if="problem && !problem.field?.startsWith('readings') && problem.field !== 'celsius'"
        class="problem"
        role="alert"
      >
        {{ problem.detail }}
      </p>
      <p v-if="!found" class="waiting">{{ w.waiting }} {{ id.left.value ? w.left(id.left.value) : '' }}</p>
      <IdentifiedSheet v-else v-model:draft="draft" :found="found" :captions="captions" />
      <div v-if="found" class="do">
        <ElButton type="primary" :disabled="!canFind" @click="find">{{ w.find }}</ElButton>
        <ElButton v-if="part" :loading="id.saving.value" @click="keep">{{ w.keep(part.name) }}</ElButton>
        <span v-if="kept" role="status" class="keep">
          {{ w.kept(kept) }}
          <button class="link" @click="bench.go({ step: 'judge' })">{{ w.toJudge }}</button>
        </span>
      </div>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 11fr) minmax(0, 10fr);
}
.probe {
  display: grid;
  grid-template-columns: minmax(150px, 240px) minmax(0, 1fr);
  gap: var(--s20);
  margin: var(--s10) 0;
}
.drawn {
  display: grid;
  gap: var(--s8);
  align-content: start;
}
.how {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s12);
  align-items: end;
}
.how .field {
  width: 96px;
}
.waiting {
  color: var(--muted);
  font-size: var(--t-head);
  padding: 40px var(--s10);
  text-align: center;
}
.do {
  display: flex;
  gap: var(--s10);
  flex-wrap: wrap;
  align-items: center;
  margin-top: var(--s16);
}
</style>
