<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, told, type Part, type Reading } from '../../api/client'
import Field from '../../components/Field.vue'
import ReadingTrace from '../../drawing/ReadingTrace.vue'
import { when } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import PartTitle from './PartTitle.vue'
import { useDraft } from '../../components/useDraft'
import { useSending } from './useSending'

const props = defineProps<{ part: Part }>()
const bench = useBench()
const { problem, busy, wrong, send } = useSending(bench)

const meters = computed(() => bench.workshop.value?.meters ?? [])
/** The meter last used, as long as the workshop has it. */
const lastMeter = useStorage('owl-meter', '')
const meter = computed({
  get: () =>
    meters.value.some((m) => m.id === lastMeter.value) ? lastMeter.value : (meters.value[0]?.id ?? ''),
  set: (id) => (lastMeter.value = id),
})
const accuracy = computed(() => meters.value.find((m) => m.id === meter.value)?.accuracy)

const typed = useDraft(`${props.part.id}:typed`, 0)
const state = ref<Reading['state']>(props.part.measured?.state ?? 'in circuit')
const hot = ref(false)
const field = ref<HTMLInputElement>()
const newest = computed(() => [...props.part.readings].reverse())
/** What is to be done before the next reading, where the last ones do not decide. */
const free = computed(() => {
  const j = props.part.judgement
  return j?.verdict === 'measure again' && props.part.measured ? j.next.join('; ') : ''
})

async function take() {
  if (!typed.value.trim()) {
    if (props.part.judgement && props.part.measured) bench.go({ step: 'judge' })
    else field.value?.focus()
    return
  }
  const content = {
    typed: typed.value,
    state: state.value,
    hot: hot.value,
    instrument: meter.value || null,
  }
  const done = await send(content, ({ key, confirmed }) =>
    told(
      api.POST('/api/parts/{id}/readings', {
        params: { path: { id: props.part.id } },
        body: { ...content, key, confirmed },
      }),
    ),
  )
  if (done) {
    typed.value = ''
    field.value?.focus()
  }
}

// Whoever came here on purpose wants to type; whoever walks over the tray with the arrows does not.
const route = useRoute()
onMounted(() => {
  if (route.params.step && window.matchMedia('(pointer: fine)').matches) field.value?.focus()
})
defineExpose({ main: () => void take() })
</script>

<template>
  <form @submit.prevent="take">
    <div class="body">
      <PartTitle :part="part" />
      <Field v-slot="{ id, described }" class="entry" :label="words.measure.entry" :wrong="wrong('typed')">
        <input
          :id="id"
          ref="field"
          v-model="typed"
          class="big-entry reading"
          :class="{ 'wrong-entry': wrong('typed') }"
          :placeholder="words.measure.example"
          :aria-describedby="described"
          inputmode="decimal"
          autocomplete="off"
          spellcheck="false"
        />
      </Field>
      <fieldset class="states">
        <legend class="sr">{{ words.measure.state }}</legend>
        <label v-for="s in bench.workshop.value?.words.states ?? []" :key="s" :class="{ on: state === s }">
          <input v-model="state" type="radio" name="state" :value="s" class="sr" />{{ s }}
        </label>
        <label :class="{ on: hot }" class="hot">
          <input v-model="hot" type="checkbox" class="sr" />{{ words.measure.hot }}
        </label>
      </fieldset>
      <Field v-slot="{ id }" :label="words.measure.meter" :hint="accuracy" :wrong="wrong('instrument')">
        <ElSelect :id="id" v-model="meter">
          <ElOption v-for="m in meters" :key="m.id" :value="m.id" :label="`${m.name}, ${m.mode}`" />
        </ElSelect>
      </Field>
      <p v-if="free" class="free">{{ free }}</p>
      <ReadingTrace v-if="part.judgement" :readings="part.readings" :gauge="part.judgement.gauge" />
      <h3>{{ words.measure.readings }}</h3>
      <p v-if="newest.length === 0" class="note">{{ words.measure.none }}</p>
      <ol class="readings">
        <li v-for="r in newest" :key="r.id" :class="{ before: r.before_fitting }">
          <b class="num">{{ r.overrange ? words.tray.overrange : r.measured?.text }}</b>
          <span class="num small">{{ r.accuracy }}</span>
          <span>
            {{ r.state }}<template v-if="r.hot">, {{ words.measure.hotShort }}</template
            ><template v-if="r.before_fitting"> · {{ words.measure.before }}</template>
          </span>
          <span class="small right">{{ r.instrument }}, {{ r.mode }}</span>
          <time class="num small" :datetime="r.taken_at">{{ when(r.taken_at) }}</time>
        </li>
      </ol>
    </div>
    <div class="foot">
      <ElButton type="primary" native-type="submit" :loading="busy">
        {{ problem?.ask ? words.measure.anyway : words.measure.take }}
        <kbd v-if="typed.trim() || !part.measured">Enter</kbd>
      </ElButton>
      <ElButton v-if="part.measured && part.judgement" @click="bench.go({ step: 'judge' })">
        {{ words.measure.judge }} <kbd v-if="!typed.trim()">Enter</kbd>
      </ElButton>
    </div>
  </form>
</template>

<style scoped>
.entry {
  margin: 8px 0 10px;
}
.reading {
  font-size: 38px;
  line-height: 1.15;
  color: var(--numeral);
}
.reading::placeholder {
  color: var(--well-soft);
  opacity: 0.55;
  font-size: 22px;
}
.states {
  border: 0;
  margin: 0 0 10px;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(3, auto) 1fr;
  gap: 6px;
}
.states label {
  min-height: 40px;
  display: flex;
  align-items: center;
  justify-content: center;
  padding: 4px 12px;
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  cursor: pointer;
  font-weight: 550;
  text-align: center;
  line-height: 1.15;
}
.states label.on {
  background: var(--baize);
  border-color: var(--lamp);
  color: var(--numeral);
  box-shadow: inset 0 0 0 1px var(--lamp);
}
.states label:focus-within {
  outline: 2px solid var(--focus);
  outline-offset: 2px;
}
.states .hot {
  border-style: dashed;
}
.free {
  margin-top: 10px;
  padding: 8px 12px;
  border-radius: 8px;
  background: var(--again-low);
  color: var(--light);
  font-size: 13.5px;
}
.readings li {
  display: grid;
  grid-template-columns: 92px 64px 1fr auto 46px;
  gap: 8px;
  align-items: baseline;
  padding: 7px 0;
  border-top: 1px solid var(--edge);
  font-size: 13.5px;
}
.readings b {
  font-size: 16px;
  font-weight: 600;
}
.readings .before b {
  font-weight: 400;
}
.small {
  color: var(--muted);
  font-size: 12.5px;
}
.right {
  text-align: right;
}
time {
  text-align: right;
}
</style>
