<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { api, told, type PowerUp } from '../../api/client'
import CautionList from '../../components/CautionList.vue'
import ChoiceChips from '../../components/ChoiceChips.vue'
import Field from '../../components/Field.vue'
import { said } from '../../words/dialect'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'
import PowerAdvice from './PowerAdvice.vue'
import PowerLogList from './PowerLogList.vue'
import SafetyList from './SafetyList.vue'
import { useStage } from './useStage'

/** First power: a step at a time through lamp and variable transformer, and what the lamp says. */
const bench = useBench()
const w = words.job.power
const { busy, problem, wrong, send } = useSending(bench)
const {
  data,
  problem: away,
  ticket,
  fetch,
} = useStage((id) => told(api.GET('/api/tickets/{id}/power', { params: { path: { id } } })))
type Story = PowerUp['story']
type Sign = PowerUp['signs'][number]
const form = reactive({
  volts: '',
  bulb: '',
  current: '',
  story: '' as Story | '',
  signs: [] as Sign[],
  note: '',
})
const last = computed(() => data.value?.ups.at(-1) ?? null)
const cautions = computed(() => bench.cautionsAt('first power', 'prove').map((c) => c.text))
const first = computed(() => data.value?.plan[0] ?? null)
/** The next step stands in the fields, to be changed. */
watch(
  data,
  (log) => {
    if (!log || form.volts) return
    const says = log.ups.at(-1)?.says
    form.volts = says?.next_volts?.text ?? (log.ups.length ? '' : (log.plan[0]?.volts?.text ?? ''))
    form.bulb = says?.next_bulb?.text ?? log.ups.at(-1)?.bulb?.text ?? log.bulb?.text ?? ''
  },
  { immediate: true },
)
function turn(sign: Sign) {
  const at = form.signs.indexOf(sign)
  if (at < 0) form.signs.push(sign)
  else form.signs.splice(at, 1)
}
const noStory = ref(false)
async function save() {
  const id = ticket.value
  if (!id) return
  const story = form.story || (form.bulb ? null : ('no lamp in series' as Story))
  if (!story) {
    noStory.value = true
    return
  }
  const content = { ...form, story }
  const done = await send(content, ({ key, confirmed }) =>
    told(
      api.POST('/api/tickets/{id}/power', {
        params: { path: { id } },
        body: { ...content, key, confirmed },
      }),
    ),
  )
  if (!done) return
  Object.assign(form, { volts: '', current: '', story: '', signs: [], note: '' })
  data.value = done
}
const SENSES = ['heard', 'smelt', 'seen'] as const
const TYPED = [
  { name: 'volts', label: w.volts, example: '70 V' },
  { name: 'bulb', label: w.bulb, example: '60 W' },
  { name: 'current', label: w.current, example: '0.21 A' },
] as const
/** A set that runs on batteries only comes up on a bench supply with a current limit, and not through a lamp. */
const mains = computed(() => bench.ticket.value?.class.mains ?? true)
const typed = computed(() =>
  mains.value
    ? TYPED
    : TYPED.filter((f) => f.name !== 'bulb').map((f) =>
        f.name === 'volts' ? { ...f, label: w.benchSupply, example: '9 V' } : f,
      ),
)
const FIELDS = /^(volts|bulb|current)$/
</script>

<template>
  <p v-if="away && !data" class="desk problem" role="alert">
    {{ away.detail }} <button class="link" @click="fetch">{{ words.away.again }}</button>
  </p>
  <p v-else-if="!data" class="desk loading">{{ words.job.loading }}</p>
  <div v-else class="desk-page page">
    <form class="desk" @submit.prevent="save">
      <CautionList :cautions="cautions" />
      <h3>{{ w.title }}</h3>
      <div class="three">
        <Field
          v-for="f in typed"
          :key="f.name"
          v-slot="{ id, described }"
          :label="f.label"
          :wrong="wrong(f.name)"
        >
          <ElInput
            :id="id"
            v-model="form[f.name]"
            :placeholder="f.example"
            autocomplete="off"
            :aria-describedby="described"
          />
        </Field>
      </div>
      <ChoiceChips
        v-if="mains"
        v-model="form.story"
        seen
        columns="repeat(auto-fill, minmax(160px, 1fr))"
        :label="w.story"
        :options="data.stories.map((s) => ({ value: s, label: s }))"
        @change="noStory = false"
      />
      <p v-if="noStory" class="problem" role="alert">{{ w.sayStory }}</p>
      <div v-for="sense in SENSES" :key="sense" class="sense">
        <span class="note">{{ w[sense] }}</span>
        <div class="chips row" role="group" :aria-label="w[sense]">
          <button
            v-for="s in data.signs.filter((x) => x.sense === sense)"
            :key="s.sign"
            type="button"
            :class="{ on: form.signs.includes(s.sign) }"
            :aria-pressed="form.signs.includes(s.sign)"
            @click="turn(s.sign)"
          >
            {{ said(s.sign) }}
          </button>
        </div>
      </div>
      <Field v-slot="{ id }" :label="w.note" :wrong="wrong('note')">
        <ElInput :id="id" v-model="form.note" class="text" autocomplete="off" />
      </Field>
      <p v-if="problem && !FIELDS.test(problem.field ?? '')" class="problem" role="alert">
        {{ problem.detail }}
      </p>
      <div class="stick">
        <ElButton :type="data.held ? 'default' : 'primary'" native-type="submit" :loading="busy">{{
          problem?.ask ? w.saveAnyway : w.save
        }}</ElButton>
      </div>
    </form>
    <section class="desk" aria-live="polite">
      <div v-if="data.held" role="alert"><CautionList :cautions="[data.held]" /></div>
      <SafetyList v-if="!data.ups.length" before="power" />
      <p v-if="data.missing" class="watch">{{ data.missing }}</p>
      <template v-if="last?.says">
        <PowerAdvice v-if="!data.held" :says="last.says" />
      </template>
      <template v-else-if="!last && first && !data.held">
        <p class="begin">
          {{ first.volts ? w.none : w.noneAny }}
          <b v-if="first.volts" class="num">{{ first.volts.text }}</b>
          <template v-if="data.bulb"
            >, {{ w.lamp }} <b class="num">{{ data.bulb.text }}</b></template
          >
        </p>
        <p class="note">{{ first.watch }}</p>
      </template>
      <PowerLogList :log="data" />
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 1fr) minmax(0, 1fr);
}
form {
  display: grid;
  gap: var(--s8);
  align-content: start;
  justify-items: stretch;
}
.page > section > .safety {
  margin-bottom: var(--s12);
}
.three {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: var(--s12);
}
.sense {
  display: grid;
  grid-template-columns: 52px 1fr;
  gap: var(--s8);
  align-items: baseline;
}
.text :deep(input) {
  font-family: var(--text);
}
.begin {
  font-size: var(--t-head);
}
.begin b {
  font-size: var(--t-sign);
  color: var(--numeral);
}
</style>
