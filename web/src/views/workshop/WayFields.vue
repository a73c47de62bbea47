<script setup lang="ts">
import { computed } from 'vue'
import type { Instrument } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import type { Way } from './way'

/** One way of measuring, with its ranges as the handbook has them. */
defineProps<{ kind: Instrument['kind']; wrong: (field: string) => string | null }>()
const emit = defineEmits<{ remove: [] }>()
const way = defineModel<Way>({ required: true })
const bench = useBench()
const list = computed(() => bench.workshop.value?.words)

function addRange() {
  way.value.ranges.push({
    up_to: '',
    percent: way.value.ranges.at(-1)?.percent ?? '',
    counts: way.value.ranges.at(-1)?.counts ?? 0,
    resolution: '',
  })
}
</script>

<template>
  <fieldset>
    <legend class="sr">{{ way.name || words.workshop.ways }}</legend>
    <div class="way">
      <Field v-slot="{ id: at }" :label="words.workshop.way" :wrong="wrong('name')">
        <ElInput :id="at" v-model="way.name" autocomplete="off" />
      </Field>
      <Field v-slot="{ id: at }" :label="words.workshop.quantity" :wrong="wrong('quantity')">
        <ElSelect :id="at" v-model="way.quantity">
          <ElOption
            v-for="q in list?.quantities ?? []"
            :key="q.called + q.quantities[0]"
            :value="q.quantities[0] ?? ''"
            :label="q.called"
          />
        </ElSelect>
      </Field>
      <Field v-slot="{ id: at }" :label="words.workshop.mode">
        <ElSelect :id="at" v-model="way.mode">
          <ElOption v-for="m in list?.modes ?? []" :key="m" :value="m" :label="m" />
        </ElSelect>
      </Field>
      <Field
        v-if="way.mode === 'ac'"
        v-slot="{ id: at }"
        :label="words.workshop.hertz"
        :wrong="wrong('test_frequency')"
      >
        <ElInput :id="at" v-model="way.test_frequency" autocomplete="off" />
      </Field>
      <Field v-slot="{ id: at }" :label="words.workshop.volts" :wrong="wrong('test_voltage')">
        <ElInput :id="at" v-model="way.test_voltage" autocomplete="off" />
      </Field>
      <Field v-if="kind === 'leakage tester'" v-slot="{ id: at }" :label="words.workshop.setting">
        <ElSelect :id="at" v-model="way.setting" clearable :value-on-clear="null">
          <ElOption v-for="s in list?.settings ?? []" :key="s" :value="s" :label="s" />
        </ElSelect>
      </Field>
      <ElButton class="remove" @click="emit('remove')">{{ words.workshop.remove }}</ElButton>
    </div>
    <div v-if="way.ranges.length" class="range note" aria-hidden="true">
      <span v-for="(text, k) in words.workshop.range" :key="k">{{ text }}</span>
    </div>
    <div v-for="(r, j) in way.ranges" :key="j" class="range">
      <template v-for="(text, k) in words.workshop.range" :key="k">
        <input
          v-if="k === 'counts'"
          v-model.number="r.counts"
          class="counts"
          type="text"
          inputmode="numeric"
          :aria-label="text"
        />
        <div v-else>
          <ElInput v-model="r[k]" :aria-label="text" autocomplete="off" />
          <span v-if="wrong(`ranges[${j}].${k}`)" class="wrong" role="alert">{{
            wrong(`ranges[${j}].${k}`)
          }}</span>
        </div>
      </template>
      <button
        type="button"
        class="remove"
        :aria-label="words.workshop.remove"
        @click="way.ranges.splice(j, 1)"
      >
        ✕
      </button>
    </div>
    <p v-if="wrong('ranges')" class="wrong" role="alert">{{ wrong('ranges') }}</p>
    <ElButton @click="addRange">+ {{ words.workshop.addRange }}</ElButton>
  </fieldset>
</template>

<style scoped>
.way {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: var(--s10) var(--s14);
  width: 100%;
  align-items: end;
}
fieldset {
  border: 1px solid var(--edge);
  border-radius: 10px;
  padding: var(--s12) var(--s16);
  margin: 0;
  width: 100%;
  display: grid;
  gap: var(--s8);
  justify-items: start;
}
.range {
  display: grid;
  grid-template-columns: 140px 110px 80px 140px 40px;
  gap: var(--s8);
  align-items: start;
}
.range .counts {
  min-height: 40px;
  background: var(--well);
  color: var(--well-ink);
  border: 1px solid var(--well-edge);
  border-radius: 8px;
  padding: var(--s4) var(--s12);
  font: 400 var(--t-body) var(--num);
  width: 100%;
}
.range .remove {
  width: 40px;
  height: 40px;
  text-align: center;
  color: var(--muted);
}
.wrong {
  color: var(--replace);
}
</style>
