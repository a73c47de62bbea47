<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Part } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import ColourPad from '../reader/ColourPad.vue'
import ReadingList from '../reader/ReadingList.vue'
import StoryList from '../people/StoryList.vue'
import PartDetails from './PartDetails.vue'
import PartTitle from './PartTitle.vue'
import ValveData from './ValveData.vue'
import { usePartMarking } from './usePartMarking'

const props = defineProps<{ part: Part }>()
const bench = useBench()
const { marking, dirty, use } = usePartMarking(bench, () => props.part)
const { text, answer, first, wrong } = marking
const colours = computed(() => bench.workshop.value?.words.colours ?? [])

const field = ref<HTMLInputElement>()
defineExpose({ main: () => void use(0), enter: () => field.value?.focus() })
</script>

<template>
  <div>
    <div class="body">
      <PartTitle :part="part" />
      <Field v-slot="{ id, described }" :label="words.read.marking" :wrong="wrong?.detail">
        <input
          :id="id"
          ref="field"
          v-model="text"
          class="big-entry"
          :class="{ 'wrong-entry': wrong, long: text.length > 30 }"
          :aria-describedby="described"
          autocomplete="off"
          spellcheck="false"
          @keydown.enter.prevent="use(0)"
        />
      </Field>
      <ColourPad class="pad-here" :marking="marking" :colours="colours" :family="part.family" compact />
      <ReadingList v-if="answer?.length" :readings="answer" :use="words.reader.use" @use="use" />
      <ValveData v-if="part.valve_data" :data="part.valve_data" open />
      <PartDetails :part="part" />
      <StoryList :id="part.id" of="parts" :version="part.version" />
      <ul v-if="part.explanations.length" class="explained" :aria-label="words.disagreement.answered">
        <li v-for="e in part.explanations" :key="e.answered_at" class="note">
          {{ e.question }} <b>{{ e.answer }}</b><template v-if="e.note">: {{ e.note }}</template>
        </li>
      </ul>
    </div>
    <div class="foot">
      <ElButton type="primary" :disabled="!answer?.length" @click="use(0)">
        {{ dirty ? words.read.use : words.read.used
        }}<template v-if="dirty && first">: {{ first.shown?.text ?? first.type_number }}</template>
        <kbd>Enter</kbd>
      </ElButton>
      <span v-if="dirty && answer?.length" class="note">{{ words.read.unsaved }}</span>
    </div>
  </div>
</template>

<style scoped>
.title {
  margin-bottom: var(--s8);
}
.pad-here {
  margin: var(--s10) 0 var(--s8);
}
.explained {
  margin-top: var(--s12);
  display: grid;
  gap: var(--s4);
}
.explained b {
  color: var(--light);
}
</style>
