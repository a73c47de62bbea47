<script setup lang="ts">
import { computed } from 'vue'
import type { EquivalentsQuestion } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { STAGES, useDesk } from './useDesk'
import type { EquivalentsUse } from './useEquivalents'

/** What something is to be found for: a type, ratings, and what the circuit really asks. */
const props = defineProps<{ use: EquivalentsUse }>()
const w = words.transistor.equivalents
const desk = useDesk()
const { typed, wrong, form, found } = props.use
type Ratings = NonNullable<EquivalentsQuestion['wanted']>
const POLARITIES = ['npn', 'pnp', 'n-channel', 'p-channel'] as const
const diode = computed(() => found.value?.diode != null)
const ratings = computed(() => desk.wanted.ratings ?? {})
function rate(change: Partial<Ratings>) {
  desk.wanted.ratings = { ...ratings.value, ...change }
}
function kind(next: typeof form.kind) {
  form.kind = next
  if (next === 'ratings' && !desk.wanted.ratings) desk.wanted.ratings = {}
}
const at = (name: string) => wrong.value[name] ?? props.use.wrongAt(`circuit.${name}`)
</script>

<template>
  <form @submit.prevent>
    <Field
      v-if="form.kind !== 'ratings'"
      v-slot="{ id }"
      :label="w.original"
      :wrong="use.wrongAt('type') ?? undefined"
    >
      <input
        :id="id"
        v-model="desk.wanted.type"
        class="big-entry type"
        :placeholder="w.example"
        autocomplete="off"
        spellcheck="false"
      />
    </Field>
    <template v-else>
      <Field v-slot="{ id }" :label="w.polarity" :wrong="use.wrongAt('wanted.polarity')">
        <ElSelect
          :id="id"
          :model-value="ratings.polarity ?? ''"
          @update:model-value="(v: Ratings['polarity']) => rate({ polarity: v, kind: null, pinout: null })"
        >
          <ElOption v-for="p in POLARITIES" :key="p" :value="p" :label="p" />
        </ElSelect>
      </Field>
      <Field v-slot="{ id }" :label="w.material">
        <ElSelect
          :id="id"
          :model-value="ratings.material ?? ''"
          clearable
          @update:model-value="(v: Ratings['material'] | undefined) => rate({ material: v || null })"
        >
          <ElOption value="silicon" label="silicon" />
          <ElOption value="germanium" label="germanium" />
        </ElSelect>
      </Field>
      <div class="two">
        <Field v-slot="{ id }" :label="w.vceo" :wrong="wrong.vceo ?? use.wrongAt('wanted.vceo')">
          <ElInput :id="id" v-model="typed.vceo" placeholder="40 V" autocomplete="off" />
        </Field>
        <Field v-slot="{ id }" :label="w.icMost" :wrong="wrong.ic ?? use.wrongAt('wanted.ic')">
          <ElInput :id="id" v-model="typed.ic" placeholder="150 mA" autocomplete="off" />
        </Field>
        <Field v-slot="{ id }" :label="w.power" :wrong="wrong.power ?? use.wrongAt('wanted.power')">
          <ElInput :id="id" v-model="typed.power" placeholder="0.4 W" autocomplete="off" />
        </Field>
        <Field v-slot="{ id }" :label="w.hfeMin" :wrong="use.wrongAt('wanted.hfe_min')">
          <ElInput :id="id" v-model="form.hfeMin" placeholder="60" autocomplete="off" />
        </Field>
        <Field v-slot="{ id }" :label="w.package">
          <ElInput
            :id="id"
            :model-value="ratings.package ?? ''"
            placeholder="TO-18"
            autocomplete="off"
            @update:model-value="(v: string) => rate({ package: v })"
          />
        </Field>
        <Field v-slot="{ id }" :label="w.pinout" :wrong="use.wrongAt('wanted.pinout')">
          <ElInput
            :id="id"
            :model-value="ratings.pinout ?? ''"
            placeholder="EBC"
            autocomplete="off"
            @update:model-value="(v: string) => rate({ pinout: v })"
          />
        </Field>
      </div>
    </template>
    <p class="ways">
      <button v-if="form.kind !== 'type'" type="button" class="link" @click="kind('type')">
        {{ w.byType }}
      </button>
      <button v-if="form.kind !== 'ratings'" type="button" class="link" @click="kind('ratings')">
        {{ w.byRatings }}
      </button>
      <button v-if="form.kind !== 'circuit'" type="button" class="link" @click="kind('circuit')">
        {{ w.ic }}
      </button>
    </p>
    <template v-if="form.kind === 'type' && (found?.wanted || found?.diode)">
      <dl class="lines">
        <template v-for="l in found.wanted?.lines ?? found.diode?.lines ?? []" :key="l.label">
          <dt>{{ l.label }}</dt>
          <dd class="num" :class="{ note: !l.text }">{{ l.text || words.transistor.types.unknown }}</dd>
        </template>
      </dl>
      <p class="note" :title="found.wanted?.source ?? found.diode?.source">
        {{ found.wanted?.use }}
        <template v-if="found.wanted"> · {{ w.trust[found.wanted.sure] }}</template>
      </p>
    </template>
    <template v-if="form.kind !== 'circuit'">
      <h3>{{ w.circuit }}</h3>
      <div v-if="diode" class="two">
        <Field v-slot="{ id }" :label="w.reverse" :wrong="at('reverse')">
          <ElInput :id="id" v-model="typed.reverse" placeholder="300 V" autocomplete="off" />
        </Field>
        <Field v-slot="{ id }" :label="w.current" :wrong="at('current')">
          <ElInput :id="id" v-model="typed.current" placeholder="0.2 A" autocomplete="off" />
        </Field>
      </div>
      <template v-else>
        <Field v-slot="{ id }" :label="w.stage">
          <ElSelect :id="id" v-model="form.stage" clearable>
            <ElOption v-for="s in STAGES" :key="s" :value="s" :label="s" />
          </ElSelect>
        </Field>
        <div class="two">
          <Field
            v-for="f in use.fields.value.shown"
            :key="f.name"
            v-slot="{ id }"
            :label="w.fields[f.name]"
            :wrong="at(f.name)"
          >
            <ElInput :id="id" v-model="typed[f.name]" :placeholder="f.example" autocomplete="off" />
          </Field>
        </div>
        <button v-if="use.fields.value.more" type="button" class="link" @click="form.further = true">
          {{ w.further }}
        </button>
      </template>
      <ElCheckbox v-model="form.other">{{ w.other }}</ElCheckbox>
    </template>
    <ul v-if="found?.asks.length" class="asks">
      <li v-for="a in found.asks" :key="a.of" :title="a.source">
        {{ a.of }} <b class="num">{{ a.amount.text }}</b><span class="note">{{ a.because }}</span>
      </li>
    </ul>
    <p v-if="use.refused.value" class="wrong" role="alert">{{ use.refused.value }}</p>
    <ElButton v-if="desk.part && use.unkept.value" @click="use.keep">
      {{ w.keepFor(desk.part.name) }}
    </ElButton>
  </form>
</template>

<style scoped>
.type {
  text-transform: uppercase;
}
.type::placeholder {
  text-transform: none;
  font-size: var(--t-lead);
  color: var(--well-soft);
  opacity: 0.7;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s6) var(--s10);
  margin-top: var(--s6);
  align-items: end;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--s14);
}
.lines {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 1px var(--s10);
  font-size: var(--t-small);
  margin: var(--s4) 0;
}
.lines dt {
  color: var(--muted);
}
.lines dd {
  text-align: right;
  white-space: normal;
  font: 500 var(--t-small) var(--text);
}
.asks {
  margin-top: var(--s8);
  border-top: 1px solid var(--edge);
}
.asks li {
  padding: var(--s4) 0;
  font-size: var(--t-note);
}
.asks .note {
  display: block;
  font-size: var(--t-small);
}
.asks b {
  color: var(--numeral);
  font-size: var(--t-head);
  margin-left: var(--s6);
}
</style>
