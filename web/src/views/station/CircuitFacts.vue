<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, told, type Fact, type Part } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from './useSending'

/** What the verdict depends on and nobody has said; and, folded away, what was said. */
const props = defineProps<{ part: Part }>()
const bench = useBench()
const { wrong, send, busy } = useSending(bench)
const typed = ref<Record<string, string>>({})
const open = ref(false)

const asked = computed(() => props.part.asks)
const known = computed(() => props.part.facts.filter((f) => !asked.value.some((a) => a.fact === f.fact)))
/** Facts that could be said as well. */
const others = computed(() =>
  (bench.workshop.value?.words.facts ?? []).filter(
    (f) => ![...asked.value, ...known.value].some((k) => k.fact === f.fact) && fits(f),
  ),
)
function fits(f: Fact): boolean {
  return (f.fact === 'turns_ratio') === (props.part.kind === 'coil')
}
const shown = computed(() => (props.part.kind === 'capacitor' || props.part.kind === 'coil' ? true : false))
const changed = computed(() =>
  Object.entries(typed.value).some(
    ([fact, text]) => text !== (known.value.find((k) => k.fact === fact)?.text ?? ''),
  ),
)

async function keep() {
  const facts = { ...typed.value }
  const done = await send(facts, () =>
    told(
      api.PATCH('/api/parts/{id}', {
        params: { path: { id: props.part.id } },
        body: { version: props.part.version, facts },
      }),
    ),
  )
  if (done) typed.value = {}
}
</script>

<template>
  <form v-if="shown" class="facts" :class="{ asked: asked.length }" @submit.prevent="keep">
    <p v-if="asked.length" class="ask">{{ words.judge.asks }}</p>
    <p v-else class="known">
      <span v-for="f in known" :key="f.fact" class="said"
        >{{ f.label }} <b class="num">{{ f.text }}</b><template v-if="f.of_set">
          {{ words.fit.ofSet }}</template
        ></span
      >
      <button type="button" class="link" :aria-expanded="open" @click="open = !open">
        {{ known.length ? words.judge.changeFacts : words.judge.sayFacts }}
      </button>
    </p>
    <div class="fields">
      <Field
        v-for="f in [...asked, ...(open ? [...known, ...others] : [])]"
        :key="f.fact"
        v-slot="{ id }"
        :label="f.label"
        :hint="f.meaning"
        :wrong="wrong(`facts.${f.fact}`)"
      >
        <ElInput
          :id="id"
          :model-value="typed[f.fact] ?? f.text"
          autocomplete="off"
          @update:model-value="(v: string) => (typed[f.fact] = v)"
        />
      </Field>
    </div>
    <ElButton v-if="changed" native-type="submit" :loading="busy">{{ words.judge.keepFacts }}</ElButton>
  </form>
</template>

<style scoped>
.facts {
  padding: var(--s6) 0;
  border-top: 1px solid var(--edge);
  display: grid;
  gap: var(--s6);
  justify-items: start;
}
.asked {
  background: var(--again-low);
  border: 1px solid var(--again);
  border-radius: 8px;
  padding: var(--s8) var(--s12) var(--s10);
  margin: var(--s6) 0;
}
.ask {
  font-weight: 600;
}
.known {
  font-size: var(--t-small);
  color: var(--muted);
  display: flex;
  flex-wrap: wrap;
  gap: var(--s2) var(--s14);
  align-items: center;
}
.said b {
  color: var(--light);
  font-weight: 600;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s8) var(--s12);
  width: 100%;
}
.fields:empty {
  display: none;
}
.link {
  color: var(--muted);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  min-height: 32px;
}
</style>
