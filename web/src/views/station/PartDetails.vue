<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import { api, told, type Part, type PartChange } from '../../api/client'
import Field from '../../components/Field.vue'
import { said } from '../../words/dialect'
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
  fed: p.fed_by?.name ?? '',
  made: p.made ? String(p.made) : '',
  plates: p.plates ? String(p.plates) : '',
  winding: p.winding?.text ?? '',
  warm: p.test_warm,
  looks: [...p.looks],
  note: p.note,
})
type Form = ReturnType<typeof of>
const draft = useDraft(`${props.part.id}:details`, 0)
/** What was typed, upon which state of the part. */
const begun = draft.value
  ? (JSON.parse(draft.value) as { form: Form; kept: Form; version: number })
  : { form: of(props.part), kept: of(props.part), version: props.part.version }
const form = reactive(begun.form)
let { kept } = begun
/** The version of the part upon which this is typed: what was changed here and elsewhere since is shown and not overwritten. */
let upon = begun.version
function merge(p: Part) {
  const now = of(p)
  const fields = Object.keys(now) as (keyof Form)[]
  const touched = fields.filter((k) => String(form[k]) !== String(kept[k]))
  const clash = touched.some((k) => String(now[k]) !== String(kept[k]) && String(now[k]) !== String(form[k]))
  // What changed elsewhere comes in, unless it is being changed here.
  for (const k of fields) if (!touched.includes(k)) Object.assign(form, { [k]: now[k] })
  if (clash) return
  kept = now
  upon = p.version
}
watch(() => props.part, merge)
if (draft.value) merge(props.part)
const dirty = computed(() => JSON.stringify(form) !== JSON.stringify(of(props.part)))
watch(form, () => (draft.value = dirty.value ? JSON.stringify({ form, kept, version: upon }) : ''))
const kind = computed(() => props.part.kind)
const resistor = computed(() => kind.value === 'resistor')
const positions = computed(
  () => bench.workshop.value?.words.positions.find((p) => p.kind === kind.value)?.positions ?? [],
)
const families = computed(
  () => bench.workshop.value?.words.families.find((f) => f.kind === props.part.kind)?.families ?? [],
)
const others = computed(
  () => bench.ticket.value?.parts.filter((p) => p.id !== props.part.id && p.kind === kind.value) ?? [],
)
const feeds = computed(
  () => bench.ticket.value?.parts.filter((p) => p.id !== props.part.id && p.kind === 'resistor') ?? [],
)
function look(l: Part['looks'][number]) {
  form.looks = form.looks.includes(l) ? form.looks.filter((x) => x !== l) : [...form.looks, l]
}

async function keep() {
  const before = of(props.part)
  const body: PartChange = { version: upon }
  if (form.sheet !== before.sheet) body.sheet = form.sheet
  if (form.watts !== before.watts) body.watts = form.watts
  if (form.family !== before.family) body.family = form.family
  if (form.position !== before.position) body.position = form.position || null
  if (form.place !== before.place) body.place = form.place
  if (form.pair !== before.pair) body.pair = form.pair
  if (form.note !== before.note) body.note = form.note
  if (form.fed !== before.fed) body.fed_by = form.fed
  if (form.made !== before.made) body.made = form.made
  if (form.plates !== before.plates) body.plates = form.plates
  if (form.winding !== before.winding) body.winding = form.winding
  if (form.warm !== before.warm) body.test_warm = form.warm
  if (String(form.looks) !== String(before.looks)) body.looks = form.looks
  await send(body, () =>
    told(api.PATCH('/api/parts/{id}', { params: { path: { id: props.part.id } }, body })),
  )
  // Taken, or shown beside what is there now: what is sent next is sent upon that.
  kept = of(props.part)
  upon = props.part.version
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
    <Field v-if="positions.length" v-slot="{ id }" :label="words.read.position" :wrong="wrong('position')">
      <ElSelect :id="id" v-model="form.position" :empty-values="[null]" :value-on-clear="null">
        <ElOption value="" :label="words.read.noPosition" />
        <ElOption v-for="p in positions" :key="p" :value="p" :label="said(p)" />
      </ElSelect>
    </Field>
    <Field v-slot="{ id }" :label="words.read.place" :wrong="wrong('place')" :hint="words.read.socket">
      <ElInput :id="id" v-model="form.place" autocomplete="off" />
    </Field>
    <Field v-if="kind === 'coil'" v-slot="{ id }" :label="words.read.winding" :wrong="wrong('winding')">
      <ElInput :id="id" v-model="form.winding" autocomplete="off" />
    </Field>
    <Field v-if="kind === 'diode'" v-slot="{ id }" :label="words.read.plates" :wrong="wrong('plates')">
      <ElInput :id="id" v-model="form.plates" autocomplete="off" />
    </Field>
    <Field v-if="kind === 'capacitor'" v-slot="{ id }" :label="words.read.fedBy" :wrong="wrong('fed_by')">
      <ElSelect :id="id" v-model="form.fed" :empty-values="[null]" :value-on-clear="null">
        <ElOption value="" :label="words.read.noPosition" />
        <ElOption v-for="p in feeds" :key="p.id" :value="p.name" :label="p.name" />
      </ElSelect>
    </Field>
    <Field v-if="kind === 'capacitor'" v-slot="{ id }" :label="words.read.made" :wrong="wrong('made')">
      <ElInput :id="id" v-model="form.made" autocomplete="off" />
    </Field>
    <Field
      v-if="kind === 'resistor' || kind === 'coil'"
      v-slot="{ id }"
      :label="words.read.pair"
      :wrong="wrong('pair')"
    >
      <ElSelect :id="id" v-model="form.pair" :empty-values="[null]" :value-on-clear="null">
        <ElOption value="" label="–" />
        <ElOption v-for="p in others" :key="p.id" :value="p.name" :label="p.name" />
      </ElSelect>
    </Field>
    <div v-if="part.can_look.length" class="wide" role="group" :aria-label="words.read.looks">
      <span class="label">{{ words.read.looks }}</span>
      <div class="looks">
        <button
          v-for="l in part.can_look"
          :key="l"
          type="button"
          :aria-pressed="form.looks.includes(l)"
          :class="{ on: form.looks.includes(l) }"
          @click="look(l)"
        >
          {{ l }}
        </button>
        <button
          v-if="kind === 'capacitor'"
          type="button"
          class="warm"
          :aria-pressed="form.warm"
          :class="{ on: form.warm }"
          @click="form.warm = !form.warm"
        >
          {{ words.read.warm }}
        </button>
      </div>
      <span v-if="wrong('looks')" class="wrong" role="alert">{{ wrong('looks') }}</span>
    </div>
    <Field v-slot="{ id }" class="wide" :label="words.read.note" :wrong="wrong('note')">
      <ElInput :id="id" v-model="form.note" autocomplete="off" />
    </Field>
    <ElButton v-if="dirty" class="wide" native-type="submit" :loading="busy">{{ words.read.save }}</ElButton>
    <p class="wide note">
      {{ words.read.line }} <code class="num">{{ part.line }}</code>
    </p>
  </form>
</template>

<style scoped>
.details {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s8) var(--s12);
  margin-top: var(--s12);
  padding-top: var(--s10);
  border-top: 1px solid var(--edge);
}
.wide {
  grid-column: 1 / -1;
  min-width: 0;
}
.wide code {
  white-space: normal;
  overflow-wrap: anywhere;
}
.label {
  font-size: var(--t-small);
  color: var(--muted);
}
.looks {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s6);
  margin-top: var(--s2);
}
.looks button {
  min-height: 40px;
  padding: var(--s4) var(--s12);
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
}
.looks .on {
  border-color: var(--replace);
  color: var(--replace);
  background: var(--replace-low);
  font-weight: 600;
}
.looks .warm {
  border-style: dashed;
}
.looks .warm.on {
  border-color: var(--lamp);
  color: var(--numeral);
  background: var(--baize);
}
.wrong {
  color: var(--replace);
  font-size: var(--t-small);
}
</style>
