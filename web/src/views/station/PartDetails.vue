<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import { api, told, type Part, type PartChange } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useDraft } from '../../components/useDraft'
import { useSending } from './useSending'

const props = defineProps<{ part: Part }>()
const bench = useBench()
const { wrong, send, busy } = useSending(bench)

const of = (p: Part) => ({
  sheet: p.sheet?.text ?? '',
  watts: p.power?.text ?? '',
  family: p.family ?? undefined,
  position: p.position ?? ('' as const),
  place: p.place,
  pair: p.pair?.name ?? '',
  note: p.note,
})
const draft = useDraft(`${props.part.id}:details`, props.part.version)
const form = reactive(draft.value ? (JSON.parse(draft.value) as ReturnType<typeof of>) : of(props.part))
let kept = of(props.part)
// What changed elsewhere comes in, unless it is being changed here.
watch(
  () => props.part,
  (p) => {
    const now = of(p)
    const untouched = (Object.keys(now) as (keyof typeof now)[]).filter((k) => form[k] === kept[k])
    for (const k of untouched) Object.assign(form, { [k]: now[k] })
    kept = now
  },
)
const dirty = computed(() => JSON.stringify(form) !== JSON.stringify(of(props.part)))
watch(form, () => (draft.value = dirty.value ? JSON.stringify(form) : ''))
const resistor = computed(() => props.part.kind === 'resistor')
const families = computed(
  () => bench.workshop.value?.words.families.find((f) => f.kind === props.part.kind)?.families ?? [],
)
const others = computed(
  () => bench.ticket.value?.parts.filter((p) => p.id !== props.part.id && p.kind === 'resistor') ?? [],
)

async function keep() {
  const before = of(props.part)
  const body: PartChange = { version: props.part.version }
  if (form.sheet !== before.sheet) body.sheet = form.sheet
  if (form.watts !== before.watts) body.watts = form.watts
  if (form.family !== before.family) body.family = form.family
  if (form.position !== before.position) body.position = form.position || null
  if (form.place !== before.place) body.place = form.place
  if (form.pair !== before.pair) body.pair = form.pair
  if (form.note !== before.note) body.note = form.note
  await send(body, () =>
    told(api.PATCH('/api/parts/{id}', { params: { path: { id: props.part.id } }, body })),
  )
}
</script>

<template>
  <form class="details" @submit.prevent="keep">
    <Field v-if="part.kind !== 'diode'" v-slot="{ id }" :label="words.read.sheet" :wrong="wrong('sheet')">
      <ElInput :id="id" v-model="form.sheet" autocomplete="off" />
    </Field>
    <Field v-if="resistor" v-slot="{ id }" :label="words.read.watts" :wrong="wrong('watts')">
      <ElInput :id="id" v-model="form.watts" autocomplete="off" />
    </Field>
    <Field v-if="families.length" v-slot="{ id }" :label="words.read.family" :wrong="wrong('family')">
      <ElSelect :id="id" v-model="form.family" :placeholder="words.read.noPosition">
        <ElOption v-for="f in families" :key="f" :value="f" :label="f" />
      </ElSelect>
    </Field>
    <Field v-if="resistor" v-slot="{ id }" :label="words.read.position" :wrong="wrong('position')">
      <ElSelect :id="id" v-model="form.position" :empty-values="[null]" :value-on-clear="null">
        <ElOption value="" :label="words.read.noPosition" />
        <ElOption v-for="p in bench.workshop.value?.words.positions ?? []" :key="p" :value="p" :label="p" />
      </ElSelect>
    </Field>
    <Field v-slot="{ id }" :label="words.read.place" :wrong="wrong('place')">
      <ElInput :id="id" v-model="form.place" autocomplete="off" />
    </Field>
    <Field v-if="resistor" v-slot="{ id }" :label="words.read.pair" :wrong="wrong('pair')">
      <ElSelect :id="id" v-model="form.pair" :empty-values="[null]" :value-on-clear="null">
        <ElOption value="" label="–" />
        <ElOption v-for="p in others" :key="p.id" :value="p.name" :label="p.name" />
      </ElSelect>
    </Field>
    <Field v-slot="{ id }" class="wide" :label="words.read.note" :wrong="wrong('note')">
      <ElInput :id="id" v-model="form.note" autocomplete="off" />
    </Field>
    <ElButton v-if="dirty" class="wide" native-type="submit" :loading="busy">{{ words.read.save }}</ElButton>
  </form>
</template>

<style scoped>
.details {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 12px;
  margin-top: 12px;
  padding-top: 10px;
  border-top: 1px solid var(--edge);
}
.wide {
  grid-column: 1 / -1;
}
</style>
