<script setup lang="ts">
import { computed, onMounted, useTemplateRef, watch } from 'vue'
import { useSessionStorage } from '@vueuse/core'
import PageHead from '../../components/PageHead.vue'
import type { Colour, Scheme } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import ColourPad from './ColourPad.vue'
import ReadingList from './ReadingList.vue'
import { useMarking } from './useMarking'
import { usePutOn } from './usePutOn'

/** The reader by itself: a part in the hand, whatever it is. */
const bench = useBench()
const measured = useSessionStorage('reader-measured', '')
const sheet = useSessionStorage('reader-sheet', '')
const kept = useSessionStorage<{ text: string; scheme: Scheme | null; colours: Colour[] }>('reader', {
  text: '',
  scheme: null,
  colours: [],
})
const m = useMarking(() => ({ part: null, measuredText: measured.value, expectedText: sheet.value }), {
  ...kept.value,
})
const { text, answer, wrong } = m
const colours = computed(() => bench.workshop.value?.words.colours ?? [])
const field = useTemplateRef<HTMLInputElement>('field')
const nameField = useTemplateRef<HTMLInputElement>('nameField')
const at = (name: string) => (wrong.value?.field?.startsWith(name) ? wrong.value.detail : null)
const ofMarking = computed(() => (at('measured') || at('expected') ? null : (wrong.value?.detail ?? null)))

const { fits, name, refused, putOn, start } = usePutOn(bench, m, () => nameField.value?.focus())
function keep() {
  kept.value = { text: text.value, scheme: m.scheme.value, colours: m.colours.value }
}
onMounted(() => field.value?.focus())
// What is in the reader outlives closing it and reloading the page.
watch([text, m.scheme, m.colours], keep)
function clear() {
  m.clear()
  measured.value = ''
  sheet.value = ''
  field.value?.focus()
}
defineExpose({
  main: () => nameField.value?.focus(),
  otherwise: undefined,
})
</script>

<template>
  <section class="reader" :aria-label="words.reader.label" @keydown.esc.stop="bench.openTool(null)">
    <div class="hand">
      <Field v-slot="{ id, described }" :label="words.reader.marking" :wrong="ofMarking">
        <input
          :id="id"
          ref="field"
          v-model="text"
          class="big-entry"
          :class="{ 'wrong-entry': ofMarking }"
          :aria-describedby="described"
          :placeholder="words.reader.example"
          autocomplete="off"
          spellcheck="false"
          @keydown.enter.prevent="nameField?.focus()"
        />
      </Field>
      <ColourPad :marking="m" :colours="colours" any />
      <div class="known">
        <Field v-slot="{ id, described }" :label="words.reader.measured" :wrong="at('measured')">
          <input
            :id="id"
            v-model="measured"
            class="entry num"
            :aria-describedby="described"
            autocomplete="off"
          />
        </Field>
        <Field v-slot="{ id, described }" :label="words.reader.sheet" :wrong="at('expected')">
          <input
            :id="id"
            v-model="sheet"
            class="entry num"
            :aria-describedby="described"
            autocomplete="off"
          />
        </Field>
      </div>
    </div>
    <div class="says-it">
      <PageHead :title="words.reader.says">
        <button class="link" @click="bench.openTool('cards')">{{ words.reader.cards }}</button>
        <button class="link" @click="bench.openTool(null)">{{ words.reader.back }} <kbd>Esc</kbd></button>
      </PageHead>
      <div class="list">
        <ReadingList v-if="answer?.length" :readings="answer" :use="words.reader.use" @use="start" />
        <p v-else-if="m.reading.value" class="note" role="status">{{ words.reader.reading }}</p>
        <p v-else-if="!wrong" class="note">{{ words.reader.nothing }}</p>
      </div>
      <form v-if="answer?.length && bench.ticketId.value" class="put" @submit.prevent="start(0)">
        <Field v-slot="{ id, described }" :label="words.reader.name" :wrong="refused">
          <input
            :id="id"
            ref="nameField"
            v-model="name"
            class="entry num"
            maxlength="10"
            :aria-describedby="described"
            :placeholder="words.reader.nameExample"
            autocomplete="off"
          />
        </Field>
        <ElButton type="primary" native-type="submit"> {{ words.reader.start }} <kbd>Enter</kbd> </ElButton>
        <div class="others">
          <ElButton v-if="fits" @click="putOn(0)">{{ words.reader.putOn }} {{ fits.name }}</ElButton>
          <ElButton @click="clear">{{ words.reader.clear }}</ElButton>
        </div>
      </form>
    </div>
  </section>
</template>

<style scoped>
.reader {
  display: grid;
  grid-template-columns: minmax(0, 1.62fr) minmax(360px, 1fr);
  gap: var(--s16);
  padding: var(--s12) var(--s16) var(--s10) var(--s20);
  min-height: 0;
  grid-column: 1 / -1;
  grid-row: 1 / -1;
}
.hand,
.says-it {
  background: linear-gradient(var(--panel), var(--panel-low));
  border: 1px solid var(--edge-strong);
  border-radius: 12px;
  padding: var(--s14) var(--s20);
  min-height: 0;
  min-width: 0;
}
.hand {
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  gap: var(--s12);
  box-shadow: 0 0 60px var(--lamp-glow);
}
.known {
  margin-top: auto;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s12);
}
.entry {
  background: var(--well);
  color: var(--well-ink);
  border: 1px solid var(--well-edge);
  border-radius: 8px;
  padding: var(--s6) var(--s12);
  min-height: 42px;
  width: 100%;
  font-size: var(--t-large);
}
.says-it {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
}
.list {
  overflow-y: auto;
  scrollbar-width: thin;
  scrollbar-color: var(--edge-strong) transparent;
  padding-right: var(--s6);
}
.link {
  color: var(--lamp);
  text-decoration: underline;
  min-height: 40px;
}
.put {
  border-top: 1px solid var(--edge);
  padding-top: var(--s10);
  display: grid;
  grid-template-columns: minmax(110px, 1fr) auto;
  gap: var(--s10);
  align-items: end;
}
.put .field:has(.wrong) {
  align-self: start;
}
.others {
  grid-column: 1 / -1;
  display: flex;
  gap: var(--s10);
}
.put .el-button {
  margin: 0;
}
.put kbd {
  margin-left: var(--s8);
}
@media (max-width: 1100px) {
  .reader {
    display: flex;
    flex-direction: column;
    overflow-y: auto;
    padding: var(--s8);
    gap: var(--s10);
  }
  .hand,
  .says-it {
    flex: none;
    overflow: visible;
  }
  .says-it {
    display: block;
  }
}
</style>
