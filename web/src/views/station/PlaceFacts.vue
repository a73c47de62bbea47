<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, told, type Fact, type Part } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from './useSending'

/** What is known of the place in which the substitute must live; said here it counts at once. */
const props = defineProps<{ part: Part; facts: Fact[] }>()
const bench = useBench()
const { wrong, send, busy } = useSending(bench)
const typed = ref<Record<string, string>>({})
const open = ref(false)
const here = computed(() => props.facts.filter((f) => !f.of_set))
const shared = computed(() => props.facts.filter((f) => f.of_set))
/** Which of several rails it hangs on is the part's to say. */
const rails = computed(() => bench.ticket.value?.set.rails ?? [])

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
  if (!done) return
  typed.value = {}
  open.value = false
}
</script>

<template>
  <form v-if="facts.length" class="place" @submit.prevent="keep">
    <p>
      <span v-for="f in here" :key="f.fact" :title="f.meaning" :class="{ unknown: !f.text }"
        >{{ f.label }} <b class="num">{{ f.text || words.fit.notSaid }}</b></span
      >
      <span v-if="shared.length" class="shared"
        >{{ part.kind === 'transistor' && part.pair ? words.fit.ofPair : words.fit.ofSet }}:
        <template v-for="(f, i) in shared" :key="f.fact"
          >{{ i ? ', ' : '' }}{{ f.label }} <b class="num" :title="f.meaning">{{ f.text }}</b></template
        ></span
      >
      <button type="button" class="link" :aria-expanded="open" @click="open = !open">
        {{ open ? words.fit.shut : words.fit.say }}
      </button>
    </p>
    <div v-if="open" class="fields">
      <Field
        v-for="f in facts"
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
        <span v-if="f.fact === 'rail' && rails.length > 1" class="rails">
          <button
            v-for="r in rails"
            :key="r.name"
            type="button"
            class="link"
            @click="typed.rail = r.volts.text"
          >
            {{ r.name }} {{ r.volts.text }}
          </button>
        </span>
      </Field>
      <ElButton native-type="submit" :loading="busy">{{ words.judge.keepFacts }}</ElButton>
    </div>
  </form>
</template>

<style scoped>
.place {
  border-block: 1px solid var(--edge);
  padding: var(--s2) 0;
  margin: var(--s4) 0;
}
p {
  line-height: 1.5;
  font-size: var(--t-small);
  color: var(--muted);
}
b {
  color: var(--light);
  font-weight: 600;
}
p > span {
  margin-right: var(--s12);
}
.unknown b {
  color: var(--muted);
  font-weight: 400;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s8) var(--s12);
  padding: var(--s6) 0 var(--s8);
  align-items: start;
}
.rails {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s4) var(--s10);
}
.link {
  color: var(--muted);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  min-height: 32px;
}
</style>
