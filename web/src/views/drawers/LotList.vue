<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { Lot } from '../../api/client'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import LotForm from './LotForm.vue'
import { useDrawers } from './useDrawers'

/** The lots, found by what is known of them; one more and one less by a touch. */
const bench = useBench()
const drawers = useDrawers(bench)
const { found, failure, imported, busy } = drawers
const form = ref<{ lot: Lot | null; id: string } | null>(null)
const line = ref<HTMLInputElement>()
const file = ref<HTMLInputElement>()
const KINDS = ['resistor', 'capacitor', 'coil', 'diode', 'transistor', 'integrated circuit', 'lamp'] as const
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
    <div class="head">
      <label class="line">
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
      <div class="chips" role="group">
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
        <input ref="file" class="sr" type="file" accept=".csv,text/csv" tabindex="-1" @change="read" />
        <a class="button" :href="drawers.address('export')" download>{{ words.drawers.export }}</a>
        <a class="button" :href="drawers.address('labels')" download>{{ words.drawers.labels }}</a>
      </div>
    </div>
    <div v-if="failure" class="wrong" role="alert">{{ failure.detail }}</div>
    <div v-if="imported" class="imported" role="status">
      <p>
        <b>{{ words.drawers.imported(imported.added, imported.changed) }}</b>
        <template v-if="imported.refused_in_all">
          · <span class="watch">{{ words.drawers.refused(imported.refused_in_all) }}</span></template
        >
        <button class="link" @click="imported = null">{{ words.drawers.close }}</button>
      </p>
      <ul v-if="imported.refused.length">
        <li v-for="r in imported.refused" :key="r.line">
          <span class="num">{{ words.drawers.line }} {{ r.line }}</span> {{ r.why }}
        </li>
      </ul>
    </div>
    <div class="scroll">
      <p v-if="!found && !failure" class="note" role="status">{{ words.drawers.loading }}</p>
      <p v-else-if="found?.all === 0" class="empty">{{ words.drawers.empty }}</p>
      <p v-else-if="found?.lots.length === 0" class="empty">{{ words.drawers.none }}</p>
      <table v-else-if="found">
        <tbody>
          <tr v-for="l in found.lots" :key="l.id" :class="{ low: l.low, none: l.count === 0 }">
            <td class="value num">{{ l.value_text }}</td>
            <td class="what">
              <button class="open" :aria-label="l.description" @click="form = { lot: l, id: l.id }">
                {{ l.rest_text }}
              </button>
              <span v-if="l.condition !== 'new'" :class="{ watch: l.needs_test }">{{ l.condition }}</span>
            </td>
            <td class="place">{{ l.place }}</td>
            <td class="price num">{{ l.price }}</td>
            <td class="count">
              <button
                :aria-label="`${l.description}: ${words.drawers.take}`"
                :disabled="l.count === 0"
                @click="drawers.count(l, -1)"
              >
                −
              </button>
              <b class="num">{{ l.count }}</b>
              <button :aria-label="`${l.description}: ${words.drawers.put}`" @click="drawers.count(l, 1)">
                +
              </button>
            </td>
          </tr>
        </tbody>
      </table>
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
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  padding: 12px 18px 8px;
  align-items: center;
}
.line {
  flex: 1 1 300px;
}
.chips {
  display: flex;
  gap: 4px;
}
.chips button {
  min-height: 40px;
  padding: 4px 12px;
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  font-weight: 550;
}
.chips .on {
  background: var(--baize);
  border-color: var(--lamp);
  color: var(--numeral);
}
.actions {
  display: flex;
  gap: 8px;
  align-items: center;
}
.actions .el-button + .el-button {
  margin-left: 0;
}
.button {
  min-height: 40px;
  display: inline-flex;
  align-items: center;
  padding: 4px 14px;
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  color: var(--light);
  text-decoration: none;
  font-weight: 550;
}
.wrong {
  color: var(--replace);
  padding: 4px 18px 8px;
}
.imported {
  margin: 0 18px 8px;
  padding: 8px 12px;
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  max-height: 200px;
  overflow-y: auto;
}
.imported li {
  font-size: 13px;
  color: var(--muted);
  padding: 2px 0;
}
.link {
  color: var(--muted);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  min-height: 32px;
  margin-left: 12px;
}
.scroll {
  overflow-y: auto;
  padding: 0 18px 12px;
  scrollbar-width: thin;
  scrollbar-color: var(--edge-strong) transparent;
}
.empty {
  color: var(--muted);
  padding: 50px 20px;
  text-align: center;
  font-size: 15px;
}
table {
  width: 100%;
  border-collapse: collapse;
}
tr {
  border-top: 1px solid var(--edge);
}
td {
  padding: 3px 10px;
  vertical-align: middle;
}
.value {
  font-size: 21px;
  font-weight: 500;
  color: var(--numeral);
  text-align: right;
  width: 130px;
}
.what span {
  display: block;
  font-size: 12.5px;
  color: var(--muted);
}
.what span.watch {
  color: var(--watch);
}
.open {
  min-height: 40px;
  font-size: 14.5px;
  width: 100%;
}
.open:hover {
  text-decoration: underline;
}
.place {
  color: var(--light);
}
.price {
  text-align: right;
  color: var(--muted);
}
.count {
  width: 150px;
  white-space: nowrap;
  text-align: right;
}
.count button {
  width: 40px;
  height: 40px;
  text-align: center;
  border: 1px solid var(--edge);
  border-radius: 8px;
  font-size: 18px;
}
.count button:disabled {
  opacity: 0.35;
  cursor: default;
}
.count b {
  display: inline-block;
  min-width: 44px;
  text-align: center;
  font-size: 18px;
}
.low .count b {
  color: var(--watch);
}
.none .count b {
  color: var(--replace);
}
.foot-note {
  color: var(--muted);
  font-size: 13px;
  padding: 8px 10px;
}
@media (max-width: 900px) {
  .price {
    display: none;
  }
  .value {
    width: 96px;
    font-size: 18px;
  }
}
</style>
