<script setup lang="ts" generic="T extends string | number | boolean | null">
import { useId } from 'vue'

/**
 * One of several, at a touch. The browser's own radio buttons under chips: arrows, forms and labels work as everywhere.
 */
defineProps<{
  label: string
  options: readonly { value: T; label: string }[]
  /** Whether the label is seen, or only heard. */
  seen?: boolean
  /** As a grid's template. */
  columns?: string
}>()
const chosen = defineModel<T>()
const name = useId()
</script>

<template>
  <fieldset class="chips" :style="columns ? { gridTemplateColumns: columns } : undefined">
    <legend :class="seen ? 'note' : 'sr'">{{ label }}</legend>
    <label v-for="o in options" :key="String(o.value)" :class="{ on: chosen === o.value }">
      <input v-model="chosen" type="radio" class="sr" :name="name" :value="o.value" />{{ o.label }}
    </label>
    <slot />
  </fieldset>
</template>
