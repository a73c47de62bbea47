<script setup lang="ts">
import { computed } from 'vue'
import type { Identified } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import type { Draft } from './useIdentify'

/** What six readings say: what it is, its leads, what to try next, and why. */
const props = defineProps<{ found: Identified; captions: string[] }>()
const draft = defineModel<Draft>('draft', { required: true })
const w = words.transistor.identify
const gainWays = computed(() => {
  const base = props.found.base
  if (!base || props.found.what === 'jfet') return []
  const [a, b] = ['1', '2', '3'].filter((l) => l !== base)
  return a && b ? [a + b, b + a] : []
})
const tone = computed(() => {
  const s = props.found.state
  return s === 'good' ? 'keep' : s === 'leaky' ? 'watch' : 'replace'
})
/** What could settle it, what was already said among it. */
const settles = computed(() => {
  const can: string[] = props.found.can_settle
  const said = draft.value.further
  return said && !can.includes(said) ? [said, ...can] : can
})
</script>

<template>
  <div>
    <h2 :class="tone" data-test="identified">{{ found.summary }}</h2>
    <table v-if="found.base" class="leads">
      <tbody>
        <tr v-for="(name, i) in captions" :key="i">
          <td class="num">{{ i + 1 }}</td>
          <td>
            <b v-if="name">{{ name }}</b><span v-else class="note">{{ w.unknown }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <fieldset v-if="gainWays.length" class="gains">
      <legend>
        {{ w.gainTitle }} <span class="note">{{ w.gainHint }}</span>
      </legend>
      <Field v-for="g in gainWays" :key="g" v-slot="{ id: fid }" :label="w.gain(g[0] ?? '', g[1] ?? '')">
        <ElInput
          :id="fid"
          :model-value="draft.gains[g] ?? ''"
          inputmode="decimal"
          autocomplete="off"
          @update:model-value="(v: string) => (draft.gains[g] = v)"
        />
      </Field>
    </fieldset>
    <template v-if="found.next.length">
      <h3>{{ w.next }}</h3>
      <ul class="next">
        <li v-for="n in found.next" :key="n">{{ n }}</li>
      </ul>
      <fieldset v-if="settles.length" class="chips further">
        <legend class="note">{{ w.further }}</legend>
        <label v-for="f in settles" :key="f" :class="{ on: draft.further === f }">
          <input
            type="checkbox"
            class="sr"
            :checked="draft.further === f"
            @change="draft.further = draft.further === f ? '' : f"
          />{{ f }}
        </label>
      </fieldset>
    </template>
    <template v-if="found.or.length">
      <h3>{{ w.or }}</h3>
      <ul>
        <li v-for="o in found.or" :key="o">{{ o }}</li>
      </ul>
    </template>
    <h3>{{ w.why }}</h3>
    <ul class="why">
      <li v-for="b in found.because" :key="b">{{ b }}</li>
    </ul>
    <template v-if="found.in_circuit.length">
      <h3>{{ w.inSet }}</h3>
      <dl class="set">
        <div v-for="p in found.in_circuit" :key="p.resistor">
          <dt class="num">{{ p.resistor }}</dt>
          <dd class="num">{{ p.shows }}</dd>
        </div>
      </dl>
    </template>
  </div>
</template>

<style scoped>
h2 {
  font: 600 var(--t-sign)/1.25 var(--title);
}
.leads {
  margin: var(--s10) 0 var(--s4);
  border-collapse: collapse;
  font-size: var(--t-large);
}
.leads td {
  padding: var(--s2) var(--s14) var(--s2) 0;
}
.leads .num {
  color: var(--numeral);
  font-weight: 600;
  font-size: var(--t-value);
}
.gains {
  border: 0;
  padding: 0;
  margin: var(--s8) 0 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s4) var(--s12);
}
.gains legend {
  font: 600 var(--t-lead) var(--title);
  margin-bottom: var(--s4);
}
.gains legend .note {
  font: 400 var(--t-small) var(--text);
}
li {
  padding: var(--s2) 0;
}
.next li {
  border-left: 3px solid var(--again);
  padding: var(--s2) var(--s10);
  margin-bottom: var(--s4);
  background: var(--again-low);
  border-radius: 6px;
}
.further {
  margin-top: var(--s6);
  grid-template-columns: 1fr 1fr;
}
.why li {
  color: var(--muted);
  font-size: var(--t-note);
}
.set {
  display: flex;
  gap: var(--s16);
  flex-wrap: wrap;
}
.set dt {
  color: var(--muted);
}
.set dd {
  font-size: var(--t-head);
}
</style>
