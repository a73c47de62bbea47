<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { words } from '../../words/en'
import CandidateSheet from './CandidateSheet.vue'
import CandidateTable from './CandidateTable.vue'
import NeedForm from './NeedForm.vue'
import { useDesk } from './useDesk'
import { useEquivalents } from './useEquivalents'

/** What goes in: what is wanted at the left, the candidates in the middle, the one in hand at the right. */
const w = words.transistor.equivalents
const desk = useDesk()
const use = useEquivalents()
const { found, problem, busy, picked, candidate } = use
const missing = computed(() => problem.value?.status === 404)
const body = ref<HTMLElement>()
const list = ref<HTMLElement>()
// Another original: its list is read from the top.
watch(
  () => found.value?.wanted?.type ?? found.value?.diode?.type,
  () => {
    picked.value = ''
    if (list.value) list.value.scrollTop = 0
  },
)
onMounted(() => body.value?.querySelector('input')?.focus())

function add() {
  desk.sheet.value = desk.wanted.type
  desk.page.value = 'types'
}
</script>

<template>
  <div ref="body" class="three">
    <NeedForm class="desk" :use="use" />
    <section ref="list" class="desk list" aria-live="polite">
      <p v-if="missing" class="problem" role="alert">
        {{ problem?.detail }} <button class="link" @click="add">{{ w.addRow }}</button>
      </p>
      <p v-else-if="problem && !problem.field" class="problem" role="alert">{{ problem.detail }}</p>
      <p v-else-if="!found" class="loading">{{ busy ? words.transistor.loading : w.ask }}</p>
      <template v-else>
        <p v-if="found.read_as" class="watch">{{ found.read_as }}</p>
        <p v-for="a in found.advice" :key="a" class="advice">{{ a }}</p>
        <template v-if="use.form.kind === 'circuit'">
          <h3>{{ w.same }}</h3>
          <p v-if="!found.same.length">{{ w.noSame }}</p>
          <ul>
            <li v-for="s in found.same" :key="s.lot">
              <b class="num">{{ s.count }} ×</b> {{ s.place }} · {{ s.condition }}
            </li>
          </ul>
        </template>
        <p v-else-if="!found.candidates.length" class="loading">{{ w.none }}</p>
        <CandidateTable v-else v-model="picked" :answer="found" :chosen="candidate?.type ?? ''" />
      </template>
    </section>
    <CandidateSheet v-if="candidate && found" class="desk sheet" :answer="found" :candidate="candidate" />
  </div>
</template>

<style scoped>
.three {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr) 390px;
  min-height: 0;
}
.list,
.sheet {
  border-left: 1px solid var(--edge);
}
.advice {
  color: var(--muted);
  font-size: var(--t-note);
  margin-bottom: var(--s4);
}
@media (max-width: 1100px) {
  .three {
    grid-template-columns: 240px minmax(0, 1fr);
    grid-template-rows: max-content max-content;
    overflow-y: auto;
  }
  .three > .desk {
    overflow: visible;
  }
  .three > .desk:first-child {
    grid-row: 1 / span 2;
  }
  .sheet {
    grid-area: 1 / 2;
  }
  .list {
    grid-area: 2 / 2;
    border-top: 1px solid var(--edge);
  }
}
</style>
