<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, reactive, ref } from 'vue'
import { api, Problem, told, type Choice, type Part, type Substitutes } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import PartTitle from './PartTitle.vue'
import { useDraft } from '../../components/useDraft'
import { useSending } from './useSending'

const props = defineProps<{ part: Part }>()
const bench = useBench()
const { problem, busy, wrong, send } = useSending(bench)

const volts = ref('')
const answer = ref<Substitutes | null>(null)
const failure = ref<Problem | null>(null)
const picked = ref(0)
const form = reactive({ description: '', value: '', tolerance: '5 %', watts: '' })
const measured = useDraft(`${props.part.id}:measured`, 0)
const family = ref<Choice['family']>('metal film')
const wanted = computed(() => props.part.sheet ?? props.part.marked)

function pick(choice: Choice, at: number) {
  picked.value = at
  form.description = choice.description
  form.value = choice.shown.text
  form.watts = choice.power_text
  family.value = choice.family
}

async function look() {
  const p = props.part
  const value = p.marked ?? p.sheet
  const school = bench.ticket.value?.school
  if (!value || !school || !p.family) return
  try {
    answer.value = await told(
      api.POST('/api/substitute', {
        body: {
          part: {
            kind: 'resistor',
            family: p.family,
            value: value.value,
            tolerance: p.tolerance,
            power: p.power?.value,
          },
          wanted: wanted.value?.value,
          position: p.position,
          circuit: volts.value.trim() ? { voltage_typed: volts.value } : null,
          school,
        },
      }),
    )
    failure.value = null
    const first = answer.value.choices[0]
    if (first) pick(first, 0)
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    if (!e.away) failure.value = e
  }
}
watchDebounced([volts, () => props.part.version, () => bench.connected.value], look, {
  debounce: 150,
  immediate: true,
})

async function fit() {
  const content = { ...form, measured: measured.value, family: family.value, version: props.part.version }
  const done = await send(content, ({ key, confirmed }) =>
    told(
      api.POST('/api/parts/{id}/fittings', {
        params: { path: { id: props.part.id } },
        body: { ...content, key, confirmed },
      }),
    ),
  )
  if (!done) return
  measured.value = ''
  bench.go({ step: 'prove' })
}
const left = computed(() => {
  const d = props.part.decision
  return d?.stands === true && (d.decided === 'keep' || d.decided === 'watch')
})
const measuredField = ref<HTMLInputElement>()
defineExpose({
  main: () => (measured.value.trim() ? void fit() : measuredField.value?.focus()),
})
</script>

<template>
  <form @submit.prevent="fit">
    <div class="body">
      <PartTitle :part="part" />
      <p v-if="!wanted" class="note">{{ words.fit.needValue }}</p>
      <template v-else>
        <p v-if="left" class="left">{{ words.fit.keptCaution }}</p>
        <h3>{{ words.fit.choices }}</h3>
        <p v-if="!answer && !failure" class="note" role="status">{{ words.fit.look }}</p>
        <ul v-if="answer" class="choices">
          <li v-for="(c, i) in answer.choices" :key="c.description">
            <label :class="{ on: picked === i }">
              <input type="radio" name="choice" class="sr" :checked="picked === i" @change="pick(c, i)" />
              <span class="what">
                <b>{{ c.description }}</b>
                <span class="num">{{ c.network ? `${c.shown.text}, ` : '' }}{{ c.deviation_text }}</span>
              </span>
              <template v-if="picked === i">
                <span v-for="r in c.passes" :key="r.text" class="line" :title="r.source">{{ r.text }}</span>
                <span v-for="r in c.cautions" :key="r" class="line caution">{{ r }}</span>
              </template>
            </label>
          </li>
        </ul>
        <Field v-slot="{ id, described }" :label="words.fit.measured" :wrong="wrong('measured')">
          <input
            :id="id"
            ref="measuredField"
            v-model="measured"
            class="big-entry"
            :class="{ 'wrong-entry': wrong('measured') }"
            :aria-describedby="described"
            inputmode="decimal"
            autocomplete="off"
          />
        </Field>
        <div class="grid">
          <Field v-slot="{ id }" class="wide" :label="words.fit.entry" :wrong="wrong('description')">
            <ElInput :id="id" v-model="form.description" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="words.fit.value" :wrong="wrong('value')">
            <ElInput :id="id" v-model="form.value" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="words.fit.tolerance" :wrong="wrong('tolerance')">
            <ElInput :id="id" v-model="form.tolerance" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="words.fit.watts" :wrong="wrong('watts')">
            <ElInput :id="id" v-model="form.watts" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" class="wide" :label="words.fit.volts" :wrong="failure?.detail">
            <ElInput :id="id" v-model="volts" autocomplete="off" />
          </Field>
        </div>
        <template v-if="answer?.refused.length">
          <h3>{{ words.fit.refused }}</h3>
          <ul class="refused">
            <li v-for="r in answer.refused" :key="r.description">
              <s>{{ r.description }}</s> {{ r.because }}
            </li>
          </ul>
        </template>
      </template>
    </div>
    <div class="foot">
      <ElButton type="primary" native-type="submit" :loading="busy" :disabled="!wanted">
        {{ problem?.ask ? words.fit.anyway : words.fit.fitted }} <kbd>Enter</kbd>
      </ElButton>
    </div>
  </form>
</template>

<style scoped>
.left {
  color: var(--watch);
  margin-bottom: 6px;
}
.choices li {
  margin-bottom: 6px;
}
.choices label {
  display: grid;
  gap: 2px;
  padding: 8px 12px;
  min-height: 40px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  cursor: pointer;
}
.choices label:hover {
  border-color: var(--edge-strong);
}
.choices label.on {
  border-color: var(--lamp);
  background: var(--baize);
}
.choices label:focus-within {
  outline: 2px solid var(--focus);
  outline-offset: 1px;
}
.what {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  align-items: baseline;
}
.what b {
  font-weight: 600;
  font-size: 15px;
}
.line {
  font-size: 13px;
  color: var(--muted);
}
.caution {
  color: var(--watch);
}
.refused li {
  color: var(--muted);
  font-size: 13px;
  padding: 3px 0;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 8px 12px;
  margin-top: 10px;
}
.wide {
  grid-column: 1 / -1;
}
</style>
