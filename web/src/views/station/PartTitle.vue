<script setup lang="ts">
import type { Part } from '../../api/client'
import { said } from '../../words/dialect'

defineProps<{ part: Part }>()
</script>

<template>
  <div class="title">
    <h2>
      {{ part.name }}<template v-if="part.position"> · {{ said(part.position) }}</template>
    </h2>
    <span>{{ part.in_words }}</span>
  </div>
</template>
