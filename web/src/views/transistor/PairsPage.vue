<script setup lang="ts">
import { computed, ref } from 'vue'
import Field from '../../components/Field.vue'
import PairChart from '../../drawing/PairChart.vue'
import { words } from '../../words/en'
import PieceTable from './PieceTable.vue'
import { STAGES } from './useDesk'
import { usePairs } from './usePairs'

/** A lot of one type: measured, drawn, paired. */
const w = words.transistor.pairs
const use = usePairs()
const { lots, size, found, draft, saved, written, problem } = use
const chosen = ref<string | null>(null)
const general = computed(() => {
  const field = problem.value?.field ?? ''
  const shown = /^(name|type_number|test_current|emitter_resistor|idle_current|pieces|label|instrument)/
  return problem.value && !shown.test(field) ? problem.value.detail : null
})
const groups = computed(() => {
  const p = found.value?.paired
  if (!p) return []
  const quads = p.quads.map((q) => ({
    members: q.members,
    distance: q.distance,
    text: '',
    call: null,
    means: [] as string[],
  }))
  const pairs = p.pairs.map((x) => ({
    members: [x.a, x.b],
    distance: x.distance,
    text: x.text,
    call: x.call,
    means: x.means,
  }))
  return [...pairs, ...quads]
})
</script>

<template>
  <div class="desk-page page">
    <section class="desk form">
      <div class="chips row" role="group" :aria-label="w.lots">
        <button
          v-for="l in lots ?? []"
          :key="l.id"
          :class="{ on: draft?.id === l.id }"
          :aria-pressed="draft?.id === l.id"
          @click="use.open(l.id)"
        >
          {{ l.name }} <span class="num note">{{ l.pieces.length }}</span>
        </button>
        <button :class="{ on: draft && !saved }" @click="use.begin">+ {{ w.newLot }}</button>
      </div>
      <p v-if="lots && !lots.length && !draft" class="loading">{{ w.empty }}</p>
      <form v-if="draft" @submit.prevent="use.save">
        <div class="fields">
          <Field v-slot="{ id }" class="wide" :label="w.name" :wrong="use.wrong('name')">
            <ElInput :id="id" v-model="draft.name" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="w.type" :wrong="use.wrong('type_number')">
            <ElInput :id="id" v-model="draft.type_number" placeholder="BD137" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" class="wide" :label="words.transistor.equivalents.stage">
            <ElSelect :id="id" v-model="draft.stage" clearable :value-on-clear="null">
              <ElOption v-for="s in STAGES" :key="s" :value="s" :label="s" />
            </ElSelect>
          </Field>
          <Field v-slot="{ id }" :label="w.test" :wrong="use.wrong('test_current')">
            <ElInput :id="id" v-model="draft.test_current" placeholder="10 mA" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="w.emitter" :wrong="use.wrong('emitter_resistor')">
            <ElInput :id="id" v-model="draft.emitter_resistor" placeholder="2.2 Ω" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="w.idle" :wrong="use.wrong('idle_current')">
            <ElInput :id="id" v-model="draft.idle_current" placeholder="15 mA" autocomplete="off" />
          </Field>
        </div>
        <PieceTable :use="use" />
        <p v-if="general" class="problem" role="alert">{{ general }}</p>
        <div class="do">
          <ElButton type="primary" native-type="submit" :loading="use.busy.value">{{ w.save }}</ElButton>
          <span class="note" role="status">{{ written ? w.unsaved : w.saved }}</span>
          <template v-if="saved">
            <a class="link" :href="use.address('labels')" target="_blank">{{ w.labels }}</a>
            <a class="link" :href="use.address('csv')" download>{{ w.csv }}</a>
          </template>
          <ElPopconfirm :title="w.dropAsk" width="260" @confirm="use.remove">
            <template #reference
              ><ElButton text>{{ w.drop }}</ElButton></template
            >
          </ElPopconfirm>
        </div>
      </form>
    </section>
    <section class="desk said" aria-live="polite">
      <div class="chips row" role="group">
        <button :class="{ on: size === 'pairs' }" :aria-pressed="size === 'pairs'" @click="size = 'pairs'">
          {{ w.pairs }}
        </button>
        <button :class="{ on: size === 'quads' }" :aria-pressed="size === 'quads'" @click="size = 'quads'">
          {{ w.quads }}
        </button>
      </div>
      <p v-if="!draft" class="loading">{{ w.none }}</p>
      <p v-else-if="found && !found.paired" class="loading">{{ w.few }}</p>
      <template v-else-if="found?.paired">
        <PairChart :lot="found" :chosen="chosen" />
        <p v-if="found.paired.note" class="watch">{{ found.paired.note }}</p>
        <table class="groups">
          <tbody>
            <tr
              v-for="g in groups"
              :key="g.members.join()"
              @mouseenter="chosen = g.members[0] ?? null"
              @mouseleave="chosen = null"
            >
              <td class="members num">{{ g.members.join(' + ') }}</td>
              <td class="num apart">
                {{ g.distance.toFixed(2) }} <span class="note">{{ w.distance }}</span>
              </td>
              <td>
                <b v-if="g.call" :class="g.call === 'passes as a pair' ? 'passes' : 'watch'">{{ g.call }}</b>
                {{ g.text }}<span v-for="m in g.means" :key="m" class="note idle">{{ m }}</span>
              </td>
            </tr>
          </tbody>
        </table>
        <p class="note">
          {{ w.total }} <b class="num">{{ found.paired.total.toFixed(2) }}</b>
          <template v-if="found.paired.left.length">
            · {{ w.left }}: {{ found.paired.left.join(', ') }}</template
          >
          <template v-if="found.paired.best">
            · {{ w.best }}: {{ found.paired.best.a }} + {{ found.paired.best.b }}
          </template>
        </p>
        <p v-for="c in found.paired.cares" :key="c" class="note">{{ c }}</p>
        <p v-if="!found.lot.idle_current && size === 'pairs'" class="note">{{ w.noStage }}</p>
      </template>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 9fr) minmax(0, 11fr);
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s6);
  margin-bottom: var(--s10);
}
.chips button {
  min-height: 40px;
  padding: var(--s4) var(--s12);
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  font-weight: 550;
}
.chips .on {
  background: var(--baize);
  border-color: var(--lamp);
  color: var(--numeral);
  box-shadow: inset 0 0 0 1px var(--lamp);
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: var(--s6) var(--s10);
}
.fields .wide {
  grid-column: span 2;
}
.do {
  display: flex;
  gap: var(--s10) var(--s16);
  align-items: center;
  flex-wrap: wrap;
  margin-top: var(--s10);
}
.groups {
  width: 100%;
  border-collapse: collapse;
  margin-top: var(--s6);
}
.groups tr {
  border-top: 1px solid var(--edge);
}
.groups td {
  padding: var(--s4) var(--s8);
  vertical-align: baseline;
}
.members {
  font-size: var(--t-large);
  font-weight: 600;
  color: var(--numeral);
}
.apart {
  font-size: var(--t-head);
}
.idle {
  display: block;
}
</style>
