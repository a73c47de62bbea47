<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import ChoiceChips from '../../components/ChoiceChips.vue'
import Field from '../../components/Field.vue'
import ToolFrame from '../../components/ToolFrame.vue'
import NetworkDrawing from '../../drawing/NetworkDrawing.vue'
import type { Network } from '../../api/client'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import MakeSheet from './MakeSheet.vue'
import { SERIES, useNetworks } from './useNetworks'

/** What a value can be made of; and what two or more parts make. */
const page = ref<'search' | 'make'>('search')
const pages = [
  { name: 'search', label: words.networks.label },
  { name: 'make', label: words.networks.make },
] as const
const bench = useBench()
const networks = useNetworks()
const { form, typed, wrong, found, problem, going } = networks
const best = computed(() => found.value?.networks[networks.picked.value] ?? null)
/** The part in hand, where such a network can go in. */
const part = computed(() => {
  const p = bench.part.value
  return p?.kind === form.kind && p.steps.includes('fit') ? p : null
})
function hand(n: Network) {
  const p = part.value
  if (!p) return
  bench.handed.value = {
    part: p.id,
    description: n.expression,
    value: n.shown.text,
    family: n.parts[0]?.family,
    pieces: n.parts.map((x) => ({ lot: x.lot ?? null, description: x.description ?? x.shown[0] ?? '' })),
  }
  bench.go({ part: p.name, step: 'fit' })
}
const target = ref<HTMLInputElement>()
onMounted(() => target.value?.focus())
const problemAt = (field: string) => (problem.value?.field === field ? problem.value.detail : null)
</script>

<template>
  <ToolFrame v-model="page" :label="words.networks.open" :pages="pages">
    <MakeSheet v-if="page === 'make'" />
    <div v-else class="networks">
      <form class="ask" @submit.prevent>
        <ChoiceChips
          v-model="form.kind"
          columns="1fr 1fr"
          :label="words.networks.kind"
          :options="(['resistor', 'capacitor'] as const).map((k) => ({ value: k, label: words.networks[k] }))"
        />
        <Field v-slot="{ id }" :label="words.networks.target" :wrong="wrong.target ?? problemAt('target')">
          <input :id="id" ref="target" v-model="typed.target" class="big-entry" autocomplete="off" />
        </Field>
        <ChoiceChips
          v-model="form.parts"
          seen
          columns="repeat(4, 1fr)"
          :label="words.networks.parts"
          :options="[1, 2, 3, 4].map((n) => ({ value: n, label: String(n) }))"
        />
        <Field v-slot="{ id }" :label="words.networks.from" :wrong="problemAt('from')">
          <ElSelect :id="id" v-model="form.from">
            <ElOption value="drawers" :label="words.networks.drawers" />
            <ElOption v-for="s in SERIES" :key="s" :value="s" :label="s" />
            <ElOption value="own" :label="words.networks.own" />
          </ElSelect>
        </Field>
        <Field
          v-if="form.from === 'own'"
          v-slot="{ id }"
          :label="words.networks.own"
          :wrong="networks.wrongOwn.value"
        >
          <ElInput :id="id" v-model="form.own" :placeholder="words.networks.ownExample" autocomplete="off" />
        </Field>
        <Field v-slot="{ id }" :label="words.networks.pinned" :wrong="wrong.pinned ?? problemAt('pinned')">
          <ElInput :id="id" v-model="typed.pinned" autocomplete="off" />
        </Field>
        <div class="pair">
          <Field v-slot="{ id }" :label="words.networks.volts" :wrong="wrong.volts">
            <ElInput :id="id" v-model="typed.volts" autocomplete="off" />
          </Field>
          <Field
            v-if="form.kind === 'resistor'"
            v-slot="{ id }"
            :label="words.networks.power"
            :wrong="wrong.power ?? problemAt('load')"
          >
            <ElInput :id="id" v-model="typed.power" autocomplete="off" />
          </Field>
          <Field
            v-else
            v-slot="{ id }"
            :label="words.networks.rating"
            :wrong="wrong.rating ?? problemAt('load')"
          >
            <ElInput :id="id" v-model="typed.rating" autocomplete="off" />
          </Field>
        </div>
      </form>
      <div class="answer">
        <p v-if="problem && !problem.field" class="wrong" role="alert">{{ problem.detail }}</p>
        <p v-if="!found && !problem && !going" class="empty">{{ words.networks.idle }}</p>
        <template v-if="found">
          <div v-if="best" class="drawn">
            <p class="head">
              <b class="num">{{ best.shown.text }}</b>
              <span class="num">{{ best.error_text }}</span>
              <span v-if="best.spread_text" class="note"
                >{{ words.networks.usually }} {{ best.spread_text }}</span
              >
            </p>
            <NetworkDrawing
              :scale="1.5"
              :tree="best.tree"
              :kind="form.kind"
              :labels="best.parts.map((p) => p.shown)"
            />
            <p v-if="best.balancing" class="watch">{{ best.balancing.text }}</p>
            <ElButton v-if="part" class="hand" type="primary" @click="hand(best)">{{
              words.networks.takeFor(part.name)
            }}</ElButton>
            <p v-if="best.parts.some((p) => p.place)" class="note">
              {{ [...new Set(best.parts.map((p) => p.place))].join(' · ') }}
            </p>
          </div>
          <p v-else class="empty">{{ words.networks.none }}</p>
          <p class="note" role="status">
            {{ words.networks.found }}, {{ words.networks.searched(found.searched.toLocaleString('en')) }}
            <template v-if="going">
              · {{ words.networks.going }}
              <button class="link" @click="networks.stop()">{{ words.networks.stop }}</button></template
            >
          </p>
          <ol>
            <li v-for="(n, i) in found.networks" :key="n.expression">
              <button :class="{ on: i === networks.picked.value }" @click="networks.picked.value = i">
                <span class="num expression">{{ n.expression }}</span>
                <span class="num">{{ n.shown.text }}</span>
                <span class="num error">{{ n.error_text }}</span>
              </button>
            </li>
          </ol>
        </template>
        <p v-else-if="going" class="note" role="status">{{ words.networks.going }}</p>
      </div>
    </div>
  </ToolFrame>
</template>

<style scoped>
.networks {
  display: grid;
  grid-template-columns: 330px minmax(0, 1fr);
  min-height: 0;
}
.ask {
  padding: var(--s14) var(--s16);
  border-right: 1px solid var(--edge);
  display: grid;
  gap: var(--s10);
  align-content: start;
  overflow-y: auto;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s12);
}
.answer {
  overflow-y: auto;
  padding: var(--s14) var(--s20);
  min-width: 0;
}
.drawn {
  border: 1px solid var(--edge-strong);
  border-radius: 10px;
  background: var(--baize);
  padding: var(--s10) var(--s16) var(--s12);
  margin-bottom: var(--s10);
}
.head {
  display: flex;
  gap: var(--s16);
  align-items: baseline;
  flex-wrap: wrap;
}
.head b {
  font-size: var(--t-far);
  font-weight: 500;
  color: var(--numeral);
  line-height: 1.2;
}
.hand {
  margin: var(--s8) 0 var(--s4);
}
.empty {
  color: var(--muted);
  padding: 50px var(--s20);
  text-align: center;
  font-size: var(--t-lead);
}
.wrong {
  color: var(--replace);
}
li button {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px 110px;
  gap: var(--s12);
  width: 100%;
  min-height: 40px;
  align-items: center;
  padding: var(--s4) var(--s12);
  border-top: 1px solid var(--edge);
}
li .on {
  background: var(--baize);
  box-shadow: inset 3px 0 var(--lamp);
}
.expression {
  font-size: var(--t-head);
  white-space: normal;
}
.error {
  color: var(--muted);
  text-align: right;
}
.link {
  color: var(--numeral);
  text-decoration: underline dotted;
  min-height: 32px;
}
@media (max-width: 900px) {
  .networks {
    grid-template-columns: 240px minmax(0, 1fr);
  }
}
</style>
