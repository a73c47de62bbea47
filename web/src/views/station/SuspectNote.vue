<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, told, type Part } from '../../api/client'
import Field from '../../components/Field.vue'
import CautionSign from '../../drawing/CautionSign.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import SuspectNames from './SuspectNames.vue'

/** What may have died with a part, and would kill what goes in: shown where it is fitted and where it is looked at. */
const props = defineProps<{ part: Part }>()
const bench = useBench()
const w = words.transistor.station
/** Another one sits there: it is no suspect. */
const fitted = computed(() => props.part.fittings.some((f) => !f.withdrawn_at))
const why = ref<string | null>(null)
const wrong = ref<string | null>(null)
watch(
  () => props.part.id,
  () => {
    why.value = null
    wrong.value = null
  },
)
async function dismiss() {
  const { id, version } = props.part
  const no_suspect = why.value ?? ''
  const { done, problem } = await bench.change(() =>
    told(api.PATCH('/api/parts/{id}', { params: { path: { id } }, body: { version, no_suspect } })),
  )
  wrong.value = problem?.detail ?? null
  if (done) why.value = null
}
</script>

<template>
  <SuspectNames v-if="part.suspects_unnamed.length" :part="part" class="suspects" />
  <p v-else-if="part.suspects_open.length" class="suspects">
    <CautionSign />
    <span>
      {{ w.suspects(part.suspects_open.join(', ')) }}
      <button class="link" @click="bench.select(part.suspects_open[0] ?? '')">
        {{ part.suspects_open[0] }}
      </button>
    </span>
  </p>
  <div v-else-if="part.suspect_of && !fitted" class="suspects">
    <CautionSign />
    <span>
      {{ w.suspectOf(part.suspect_of.name) }}<template v-if="part.note">. {{ part.note }}</template>
    </span>
    <button v-if="why === null" class="link" @click="why = ''">{{ w.noSuspect }}</button>
    <form v-else class="why" @submit.prevent="dismiss">
      <Field v-slot="{ id, described }" :label="w.why" :wrong="wrong">
        <ElInput :id="id" v-model="why" autofocus :placeholder="w.whyExample" :aria-describedby="described" />
      </Field>
      <ElButton native-type="submit">{{ w.takeOff }}</ElButton>
      <ElButton @click="why = null">{{ words.ticket.cancel }}</ElButton>
    </form>
  </div>
</template>

<style scoped>
.suspects {
  display: flex;
  gap: var(--s10);
  align-items: center;
  padding: var(--s6) var(--s16);
  background: var(--caution);
  color: var(--caution-ink);
  font-size: var(--t-note);
  border-bottom: 1px solid var(--caution-edge);
}
.why {
  display: flex;
  flex: 1;
  gap: var(--s8);
  align-items: end;
}
.why > :first-child {
  flex: 1;
}
.suspects :deep(label) {
  color: inherit;
}
.link {
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  font-weight: 600;
  min-height: 32px;
}
</style>
