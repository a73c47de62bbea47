<script setup lang="ts">
import { onMounted, ref } from 'vue'
import ImportResult from '../../components/ImportResult.vue'
import PageHead from '../../components/PageHead.vue'
import type { Lot } from '../../api/client'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import LotForm from './LotForm.vue'
import LotTable from './LotTable.vue'
import { useDrawers } from './useDrawers'

/** The lots, found by what is known of them; one more and one less by a touch. */
const bench = useBench()
const drawers = useDrawers(bench)
const { found, failure, imported, asked, busy } = drawers
const form = ref<{ lot: Lot | null; id: string } | null>(null)
const line = ref<HTMLInputElement>()
const file = ref<HTMLInputElement>()
const KINDS = [
  'resistor',
  'capacitor',
  'coil',
  'diode',
  'transistor',
  'integrated circuit',
  'valve',
  'lamp',
  'fuse',
  'switch',
  'loudspeaker',
] as const
onMounted(() => line.value?.focus())

async function read(e: Event) {
  const input = e.target as HTMLInputElement
  const chosen = input.files?.[0]
  if (chosen) await drawers.read(chosen)
  input.value = ''
}
</script>

<template>
  <div class="lots">
    <PageHead class="head">
      <label class="find">
        <span class="sr">{{ words.drawers.search }}</span>
        <input
          ref="line"
          v-model="drawers.search.value"
          class="big-entry"
          type="search"
          :placeholder="words.drawers.example"
          autocomplete="off"
        />
      </label>
      <div class="chips row" role="group">
        <button
          v-for="k in ['', ...KINDS] as const"
          :key="k"
          :aria-pressed="drawers.kind.value === k"
          :class="{ on: drawers.kind.value === k }"
          @click="drawers.kind.value = k"
        >
          {{ k ? words.drawers.kinds[k] : words.drawers.all }}
        </button>
        <button
          :aria-pressed="drawers.low.value"
          :class="{ on: drawers.low.value }"
          @click="drawers.low.value = !drawers.low.value"
        >
          {{ words.drawers.low }} <span v-if="found" class="num">{{ found.low }}</span>
        </button>
      </div>
      <div class="actions">
        <ElButton type="primary" @click="form = { lot: null, id: drawers.newKey() }">{{
          words.drawers.add
        }}</ElButton>
        <ElButton :loading="busy" @click="file?.click()">{{ words.drawers.import }}</ElButton>
        <input
          ref="file"
          class="sr"
          type="file"
          accept=".csv,text/csv"
          tabindex="-1"
          :aria-label="words.drawers.import"
          @change="read"
        />
        <a class="button" :href="drawers.address('export')" download>{{ words.drawers.export }}</a>
        <a class="button" :href="drawers.address('labels')" download>{{ words.drawers.labels }}</a>
      </div>
    </PageHead>
    <div v-if="failure" class="wrong" role="alert">
      {{ failure.detail }}
      <ElButton v-if="asked" size="small" @click="asked && drawers.read(asked, true)">{{
        words.drawers.takeFile
      }}</ElButton>
    </div>
    <ImportResult v-if="imported" :imported="imported" class="imported" @close="imported = null" />
    <div class="scroll">
      <p v-if="!found && !failure" class="note" role="status">{{ words.drawers.loading }}</p>
      <p v-else-if="found?.all === 0" class="empty">{{ words.drawers.empty }}</p>
      <p v-else-if="found?.lots.length === 0" class="empty">{{ words.drawers.none }}</p>
      <LotTable
        v-else-if="found"
        :lots="found.lots"
        @open="(l) => (form = { lot: l, id: l.id })"
        @count="drawers.count"
      />
      <p v-if="found && found.lots.length" class="foot-note">
        {{ words.drawers.count(found.lots.length, found.total) }}
        <button
          v-if="found.lots.length < found.total && !drawers.full()"
          class="link"
          @click="drawers.more()"
        >
          {{ words.drawers.more }}
        </button>
      </p>
    </div>
    <LotForm
      v-if="form && found"
      :key="form.id"
      :lot="form.lot"
      :columns="found.columns"
      :save="(fields) => (form!.lot ? drawers.change(form!.lot, fields) : drawers.add(form!.id, fields))"
      :remove="form.lot ? () => drawers.remove(form!.lot!) : undefined"
      @close="form = null"
    />
  </div>
</template>

<style scoped>
.lots {
  display: grid;
  grid-template-rows: auto auto auto minmax(0, 1fr);
  min-height: 0;
}
.head {
  padding: var(--s12) var(--s16) var(--s8);
}
.actions {
  display: flex;
  gap: var(--s8);
  align-items: center;
}
.actions .el-button + .el-button {
  margin-left: 0;
}
.button {
  min-height: 40px;
  display: inline-flex;
  align-items: center;
  padding: var(--s4) var(--s14);
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  color: var(--light);
  text-decoration: none;
  font-weight: 550;
}
.wrong {
  color: var(--replace);
  padding: var(--s4) var(--s16) var(--s8);
}
.imported {
  margin: 0 var(--s16) var(--s8);
}
.link {
  color: var(--muted);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  min-height: 32px;
  margin-left: var(--s12);
}
.scroll {
  overflow-y: auto;
  padding: 0 var(--s16) var(--s12);
  scrollbar-width: thin;
  scrollbar-color: var(--edge-strong) transparent;
}
.empty {
  color: var(--muted);
  padding: 50px var(--s20);
  text-align: center;
  font-size: var(--t-lead);
}
.foot-note {
  color: var(--muted);
  font-size: var(--t-small);
  padding: var(--s8) var(--s10);
}
</style>
