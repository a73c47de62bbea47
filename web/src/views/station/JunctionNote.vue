<script setup lang="ts">
import type { Part } from '../../api/client'
import { when } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'

/** What the six readings of a transistor's junctions said, and the way to the desk where they are taken. */
defineProps<{ part: Part }>()
const bench = useBench()
const w = words.transistor.station
</script>

<template>
  <div class="junctions">
    <p v-if="part.junctions" :title="part.junctions.says.because.join('; ')">
      {{ w.junctions }}: <b>{{ part.junctions.says.summary }}</b>
      <span class="note num">{{ when(part.junctions.taken_at) }}</span>
    </p>
    <ElButton size="small" type="default" @click="bench.openTool('transistors', 'identify')">{{
      w.testThem
    }}</ElButton>
  </div>
</template>

<style scoped>
.junctions {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--s10);
  margin-top: var(--s8);
}
.junctions .note {
  display: block;
}
.junctions .el-button {
  min-height: 38px;
  margin-left: auto;
}
</style>
