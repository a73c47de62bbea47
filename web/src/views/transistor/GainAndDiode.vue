<script setup lang="ts">
import { reactive, ref } from 'vue'
import { api, Problem, told, type DiodeFound, type GainAnswer } from '../../api/client'
import Field from '../../components/Field.vue'
import { useTyped } from '../../components/useTyped'
import { words } from '../../words/en'

/** Two more sums of the same bench: a diode by its drop both ways, and gain by currents with the leakage taken off. */
const w = words.transistor.identify
const diode = ref<DiodeFound | null>(null)
const gain = ref<GainAnswer | null>(null)
const problem = ref<Problem | null>(null)
const { typed, wrong, read } = useTyped()
const currents = reactive({ collector_current: '', base_current: '', leakage_current: '' })
const material = ref<'' | 'germanium' | 'silicon'>('germanium')

async function attempt(work: () => Promise<void>) {
  try {
    await work()
    problem.value = null
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    problem.value = e
  }
}
const look = () =>
  attempt(async () => {
    const values = await read([
      { name: 'one_way', quantity: 'voltage' },
      { name: 'other_way', quantity: 'voltage' },
    ])
    diode.value = null
    if (!values) return
    const body = {
      one_way: values.one_way?.value ?? null,
      other_way: values.other_way?.value ?? null,
      celsius: null,
    }
    diode.value = await told(api.POST('/api/transistors/diode', { body }))
  })
const correct = () =>
  attempt(async () => {
    gain.value = null
    const body = { ...currents, material: material.value || null, celsius: null, type: null }
    gain.value = await told(api.POST('/api/transistors/gain', { body }))
  })
const of = (field: string) => (problem.value?.field === field ? problem.value.detail : null)
</script>

<template>
  <details class="more">
    <summary>{{ w.more }}</summary>
    <div class="two">
      <div @keydown.enter.prevent.stop="look">
        <h3>{{ w.diodeTitle }}</h3>
        <p class="note">{{ w.diodeHint }}</p>
        <div class="fields">
          <Field v-slot="{ id }" :label="w.oneWay" :wrong="wrong.one_way ?? of('one_way')">
            <ElInput :id="id" v-model="typed.one_way" placeholder="0.31" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="w.otherWay" :wrong="wrong.other_way ?? of('other_way')">
            <ElInput :id="id" v-model="typed.other_way" autocomplete="off" />
          </Field>
          <ElButton @click="look">=</ElButton>
        </div>
        <div v-if="diode" role="status">
          <p>
            <b>{{ diode.state }}</b> · {{ diode.text }}
          </p>
          <p v-for="m in diode.may_be" :key="m.kind" :title="m.source">
            <b>{{ m.kind }}</b> <span class="num">{{ m.window }}</span>: {{ m.tell }}
          </p>
        </div>
      </div>
      <div @keydown.enter.prevent.stop="correct">
        <h3>{{ w.correct }}</h3>
        <p class="note">{{ w.correctHint }}</p>
        <div class="fields">
          <Field v-slot="{ id }" :label="w.ic" :wrong="of('collector_current')">
            <ElInput :id="id" v-model="currents.collector_current" placeholder="2.1mA" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="w.ib" :wrong="of('base_current')">
            <ElInput :id="id" v-model="currents.base_current" placeholder="20uA" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="w.iceo" :wrong="of('leakage_current')">
            <ElInput :id="id" v-model="currents.leakage_current" placeholder="300uA" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="w.crystal">
            <ElSelect :id="id" v-model="material" clearable>
              <ElOption value="germanium" label="germanium" />
              <ElOption value="silicon" label="silicon" />
            </ElSelect>
          </Field>
          <ElButton @click="correct">=</ElButton>
        </div>
        <p v-for="l in gain?.lines ?? []" :key="l" role="status" :title="gain?.source ?? undefined">
          {{ l }}
        </p>
      </div>
    </div>
  </details>
</template>

<style scoped>
.more {
  margin-top: var(--s16);
}
summary {
  cursor: pointer;
  font: 600 var(--t-lead) var(--title);
  min-height: 36px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s16);
}
.two > div {
  min-width: 0;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s6) var(--s8);
  align-items: end;
  margin: var(--s6) 0;
}
</style>
