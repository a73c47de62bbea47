<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { api, told, type PowerUp } from '../../api/client'
import CautionList from '../../components/CautionList.vue'
import Field from '../../components/Field.vue'
import AdviceMark from '../../drawing/AdviceMark.vue'
import { when } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'
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
const cautions = computed(() =>
  (bench.ticket.value?.cautions ?? []).filter((c) => c.step === 'prove').map((c) => c.text),
)
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
  const done = await send(content, ({ key }) =>
    told(api.POST('/api/tickets/{id}/power', { params: { path: { id } }, body: { ...content, key } })),
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
          v-for="f in TYPED"
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
      <fieldset class="chips stories">
        <legend class="note">{{ w.story }}</legend>
        <label v-for="s in data.stories" :key="s" :class="{ on: form.story === s }">
          <input
            v-model="form.story"
            type="radio"
            class="sr"
            name="story"
            :value="s"
            @change="noStory = false"
          />
          {{ s }}
        </label>
      </fieldset>
      <p v-if="noStory" class="problem" role="alert">{{ w.sayStory }}</p>
      <div v-for="sense in SENSES" :key="sense" class="sense">
        <span class="note">{{ w[sense] }}</span>
        <div class="signs" role="group" :aria-label="w[sense]">
          <button
            v-for="s in data.signs.filter((x) => x.sense === sense)"
            :key="s.sign"
            type="button"
            :class="{ on: form.signs.includes(s.sign) }"
            :aria-pressed="form.signs.includes(s.sign)"
            @click="turn(s.sign)"
          >
            {{ s.sign }}
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
        <ElButton type="primary" native-type="submit" :loading="busy">{{ w.save }}</ElButton>
      </div>
    </form>
    <section class="desk" aria-live="polite">
      <p v-if="data.missing" class="watch">{{ data.missing }}</p>
      <template v-if="last?.says">
        <div class="call" :class="last.says.call.replaceAll(' ', '-')">
          <AdviceMark :call="last.says.call" :size="34" />
          <b>{{ w.calls[last.says.call] }}</b>
          <span v-if="last.says.next_volts" class="num next"
            >{{ last.says.next_volts.text }}
            <span class="note">{{ w.next }}, {{ w.stay }} {{ last.says.hold?.text }}</span></span
          >
          <span v-if="last.says.next_bulb" class="num next"
            >{{ last.says.next_bulb.text }} <span class="note">{{ w.nextBulb }}</span></span
          >
        </div>
        <p v-if="last.says.watch" class="note">{{ last.says.watch }}</p>
        <ul class="because">
          <li v-for="b in last.says.because" :key="b.text" :title="b.source">{{ b.text }}</li>
        </ul>
        <p v-if="last.says.healthy" class="note">{{ last.says.healthy }}</p>
      </template>
      <template v-else-if="!last && first">
        <p class="begin">
          {{ first.volts ? w.none : w.noneAny }}
          <b v-if="first.volts" class="num">{{ first.volts.text }}</b>
          <template v-if="data.bulb"
            >, {{ w.lamp }} <b class="num">{{ data.bulb.text }}</b></template
          >
        </p>
        <p class="note">{{ first.watch }}</p>
      </template>
      <template v-if="data.ups.length">
        <h3>{{ w.log }}</h3>
        <ol class="log">
          <li v-for="u in [...data.ups].reverse()" :key="u.id">
            <span class="note num">{{ when(u.done_at) }}</span>
            <b class="num">{{ u.volts.text }}</b>
            <span>
              {{ u.bulb ? `${u.bulb.text}: ${u.story}` : u.story
              }}<template v-if="u.current">, {{ u.current.text }}</template>
              <span v-if="u.signs.length || u.note" class="note">{{
                [...u.signs, u.note].filter(Boolean).join(' · ')
              }}</span>
            </span>
            <span v-if="u.says" class="short" :class="u.says.call.replaceAll(' ', '-')"
              ><AdviceMark :call="u.says.call" :size="16" /> {{ w.calls[u.says.call] }}</span
            >
          </li>
        </ol>
      </template>
      <h3>{{ w.plan }}</h3>
      <ol class="log">
        <li v-for="s in data.plan" :key="s.share">
          <span class="num">{{ Math.round(s.share * 100) }} %</span>
          <b class="num">{{ s.volts?.text ?? '' }}</b>
          <span>{{ s.watch }}</span>
          <span class="note num">{{ s.hold.text }}</span>
        </li>
      </ol>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 1fr) minmax(0, 1fr);
}
form {
  display: grid;
  gap: 9px;
  align-content: start;
  justify-items: stretch;
}
.three {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 12px;
}
.stories {
  grid-template-columns: repeat(auto-fill, minmax(160px, 1fr));
}
.sense {
  display: grid;
  grid-template-columns: 52px 1fr;
  gap: 8px;
  align-items: baseline;
}
.signs {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.signs button {
  min-height: 40px;
  padding: 4px 10px;
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
}
.signs .on {
  background: var(--baize);
  border-color: var(--lamp);
  color: var(--numeral);
  font-weight: 600;
}
.text :deep(input) {
  font-family: var(--text);
}
.call {
  display: flex;
  align-items: center;
  gap: 8px 14px;
  flex-wrap: wrap;
  padding: 6px 0 10px;
}
.call b {
  font: 650 27px/1.1 var(--title);
}
.next {
  font-size: 32px;
  color: var(--numeral);
}
.next .note {
  font-family: var(--text);
}
.stop {
  color: var(--replace);
}
.look-first {
  color: var(--watch);
}
.go-on,
.it-is-up {
  color: var(--keep);
}
.begin {
  font-size: 17px;
}
.begin b {
  font-size: 30px;
  color: var(--numeral);
}
.because li::first-letter {
  text-transform: uppercase;
}
.because li {
  padding: 5px 0;
  border-top: 1px solid var(--edge);
  font-size: 15px;
}
.log li {
  display: grid;
  grid-template-columns: 92px 74px 1fr auto;
  gap: 4px 10px;
  padding: 6px 0;
  border-top: 1px solid var(--edge);
  align-items: baseline;
}
.log .note {
  display: block;
}
.short {
  display: flex;
  gap: 6px;
  align-items: center;
  font-weight: 600;
}
</style>
