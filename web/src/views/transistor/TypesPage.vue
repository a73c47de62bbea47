<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import ImportResult from '../../components/ImportResult.vue'
import PageHead from '../../components/PageHead.vue'
import { api, Problem, told, type Imported, type Types, type TypeSheet } from '../../api/client'
import OutlineDrawing from '../../drawing/OutlineDrawing.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import TypeForm from './TypeForm.vue'
import { useDesk } from './useDesk'

/** The types: found by number or use, read as a sheet, added and corrected. */
const w = words.transistor.types
const bench = useBench()
const desk = useDesk()
const search = ref('')
const looked = refDebounced(search, 150)
const own = ref(false)
const found = ref<Types | null>(null)
const chosen = ref('')
const problem = ref<Problem | null>(null)
const imported = ref<Imported | null>(null)
const busy = ref(false)
const form = ref<string | null>(null)
const line = ref<HTMLInputElement>()
const file = ref<HTMLInputElement>()
const sheet = computed<TypeSheet | null>(
  () => found.value?.types.find((t) => t.type === chosen.value) ?? found.value?.types[0] ?? null,
)

let asked = 0
/** Looks for what stands in the field; an answer that comes late is not shown in place of a newer one. */
async function look() {
  const mine = ++asked
  const query = { search: search.value, own: own.value }
  try {
    const got = await told(api.GET('/api/transistors/types', { params: { query } }))
    if (mine !== asked) return
    found.value = got
    problem.value = null
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    if (mine === asked && !e.away) problem.value = e
  }
}
watch([looked, own, () => bench.connected.value], () => void look(), { immediate: true })
async function read(e: Event) {
  const input = e.target as HTMLInputElement
  const chosenFile = input.files?.[0]
  input.value = ''
  if (!chosenFile) return
  busy.value = true
  try {
    imported.value = await told(
      api.POST('/api/transistors/types/import', {
        body: chosenFile as unknown as string,
        bodySerializer: (body) => body,
        headers: { 'content-type': 'text/csv' },
      }),
    )
    problem.value = null
  } catch (err) {
    if (!(err instanceof Problem)) throw err
    problem.value = err
  } finally {
    busy.value = false
    await look()
  }
}
function goes(type: string) {
  desk.wanted.type = type
  desk.wanted.ratings = null
  desk.page.value = 'equivalents'
}
async function done(type: string) {
  form.value = null
  if (type) {
    search.value = type
    chosen.value = type
  }
  await look()
}
onMounted(() => {
  line.value?.focus()
  // Sent here to add a row that the table lacks.
  if (desk.sheet.value) {
    form.value = desk.sheet.value
    desk.sheet.value = ''
  }
})
</script>

<template>
  <div class="desk-page page">
    <section class="desk">
      <PageHead>
        <input
          ref="line"
          v-model="search"
          type="search"
          class="big-entry find"
          :aria-label="w.search"
          :placeholder="w.search"
          autocomplete="off"
        />
        <ElCheckbox v-model="own">{{ w.own }}</ElCheckbox>
      </PageHead>
      <div class="actions">
        <ElButton type="primary" @click="form = ''">{{ w.add }}</ElButton>
        <ElButton :loading="busy" @click="file?.click()">{{ w.import }}</ElButton>
        <input
          ref="file"
          class="sr"
          type="file"
          accept=".csv,text/csv"
          tabindex="-1"
          :aria-label="w.import"
          @change="read"
        />
        <a class="link" href="/api/transistors/types/export" download>{{ w.export }}</a>
        <a v-if="found?.own" class="link" href="/api/transistors/types/export?own=true" download>{{
          w.exportOwn
        }}</a>
      </div>
      <p v-if="problem" class="problem" role="alert">{{ problem.detail }}</p>
      <ImportResult v-if="imported" :imported="imported" @close="imported = null" />
      <p v-if="!found" class="loading">{{ words.transistor.loading }}</p>
      <p v-else-if="!found.types.length" class="loading">{{ w.none }}</p>
      <ul v-else class="list">
        <li v-for="t in found.types" :key="t.type">
          <button
            :class="{ on: sheet?.type === t.type }"
            :aria-pressed="sheet?.type === t.type"
            @click="chosen = t.type"
          >
            <b class="num">{{ t.type }}</b>
            <span>{{ t.material }} {{ t.polarity }} · {{ t.use }}</span>
            <span class="note num">{{
              [t.vceo?.text, t.ic?.text, t.power?.text].filter(Boolean).join(' · ')
            }}</span>
            <span v-if="t.own" class="keep">{{ w.ownRow }}</span>
          </button>
        </li>
      </ul>
      <p v-if="found" class="note">{{ w.count(found.types.length, found.in_all) }}</p>
    </section>
    <section v-if="sheet" class="desk side">
      <h2 class="num">{{ sheet.type }}</h2>
      <p>
        {{ sheet.material }} {{ sheet.polarity }} {{ sheet.kind === 'bipolar' ? '' : sheet.kind }} ·
        {{ sheet.use }}
      </p>
      <div class="drawn">
        <OutlineDrawing v-if="sheet.outline" :outline="sheet.outline" />
        <p class="note">{{ sheet.outline?.package ?? sheet.package }} {{ sheet.outline?.about }}</p>
      </div>
      <dl>
        <template v-for="l in sheet.lines" :key="l.label">
          <dt>{{ l.label }}</dt>
          <dd class="num" :class="{ note: !l.text }">{{ l.text || w.unknown }}</dd>
        </template>
      </dl>
      <ul v-if="sheet.drawers.length">
        <li v-for="d in sheet.drawers" :key="d.lot">
          <b class="num">{{ d.count }} ×</b> {{ d.place }} · {{ d.condition }}
        </li>
      </ul>
      <p class="note">{{ words.transistor.equivalents.trust[sheet.sure] }} · {{ sheet.source }}</p>
      <p v-if="sheet.own" class="keep">{{ sheet.own.corrects ? w.corrects : w.ownRow }}</p>
      <div class="actions">
        <ElButton type="primary" @click="goes(sheet.type)">{{ w.goes }}</ElButton>
        <ElButton @click="form = sheet.type">{{ sheet.own ? w.change : w.correct }}</ElButton>
      </div>
    </section>
    <TypeForm v-if="form !== null" :type="form" @close="form = null" @done="done" />
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 1fr) 400px;
}
.side h2 {
  font-size: var(--t-sign);
  color: var(--numeral);
}
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s8) var(--s14);
  align-items: center;
  margin: var(--s10) 0;
}
.list button {
  width: 100%;
  min-height: 42px;
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr) auto auto;
  gap: var(--s10);
  align-items: center;
  padding: var(--s2) var(--s10);
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--strip);
  margin-bottom: var(--s2);
}
.list .on {
  border-color: var(--lamp);
  box-shadow: inset 0 0 0 1px var(--lamp);
}
.list b {
  font-size: var(--t-head);
}
.drawn {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  gap: var(--s12);
  align-items: center;
}
dl {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: var(--s2) var(--s12);
  margin: var(--s8) 0;
}
dt {
  color: var(--muted);
}
dd {
  text-align: right;
  white-space: normal;
  font: 500 var(--t-body) var(--text);
}
</style>
