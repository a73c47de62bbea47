<script setup lang="ts">
import { useId } from 'vue'

/** A named field; what is wrong with it stands below it. */
defineProps<{ label: string; wrong?: string | null; hint?: string }>()
const id = useId()
</script>

<template>
  <div class="field">
    <label :for="id">{{ label }}</label>
    <slot :id="id" :described="wrong ? `${id}-wrong` : undefined" />
    <span v-if="wrong" :id="`${id}-wrong`" class="wrong" role="alert">{{ wrong }}</span>
    <span v-else-if="hint" class="hint">{{ hint }}</span>
  </div>
</template>
