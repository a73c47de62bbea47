<script setup lang="ts">
import { computed } from 'vue'
import type { Part } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import type { Fit } from './useFit'

/** What goes in, typed by hand. */
const props = defineProps<{ part: Part; fit: Fit }>()
const bench = useBench()
const { form, wrong } = props.fit
const families = computed(
  () => bench.workshop.value?.words.families.find((f) => f.kind === props.part.kind)?.families ?? [],
)
const typeOnly = computed(() => ['transistor', 'integrated circuit', 'valve'].includes(props.part.kind))
/** What has no tolerance: its value is what is printed, or it has none. */
const plain = computed(() => ['fuse', 'switch', 'loudspeaker'].includes(props.part.kind))
const valued = computed(() => !['diode', 'coil', 'switch'].includes(props.part.kind) && !typeOnly.value)
</script>

<template>
  <div class="grid else">
    <Field v-slot="{ id }" class="wide" :label="words.fit.entry" :wrong="wrong('description')">
      <ElInput :id="id" v-model="form.description" autocomplete="off" />
    </Field>
    <Field v-if="valued" v-slot="{ id }" :label="words.fit.value" :wrong="wrong('value')">
      <ElInput :id="id" v-model="form.value" autocomplete="off" />
    </Field>
    <Field
      v-if="typeOnly || part.kind === 'fuse'"
      v-slot="{ id }"
      :label="part.kind === 'fuse' ? words.fit.speed : words.transistor.station.typeNumber"
      :wrong="wrong('type_number')"
    >
      <ElInput :id="id" v-model="form.type_number" autocomplete="off" />
    </Field>
    <Field
      v-if="!typeOnly && !plain"
      v-slot="{ id }"
      :label="words.fit.tolerance"
      :wrong="wrong('tolerance')"
    >
      <ElInput :id="id" v-model="form.tolerance" autocomplete="off" />
    </Field>
    <Field
      v-if="part.kind === 'resistor' || part.kind === 'loudspeaker'"
      v-slot="{ id }"
      :label="words.fit.watts"
      :wrong="wrong('watts')"
    >
      <ElInput :id="id" v-model="form.watts" autocomplete="off" />
    </Field>
    <Field v-else-if="!typeOnly" v-slot="{ id }" :label="words.fit.volts" :wrong="wrong('volts')">
      <ElInput :id="id" v-model="form.volts" autocomplete="off" />
    </Field>
    <Field v-if="families.length" v-slot="{ id }" :label="words.read.family" :wrong="wrong('family')">
      <ElSelect :id="id" v-model="form.family" clearable>
        <ElOption v-for="f in families" :key="f" :value="f" :label="f" />
      </ElSelect>
    </Field>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s8) var(--s12);
  margin: var(--s8) 0;
}
.wide {
  grid-column: 1 / -1;
}
</style>
