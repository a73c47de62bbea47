<script setup lang="ts">
import { words } from '../../words/en'
import { useBench } from './useBench'

const bench = useBench()

async function look() {
  bench.conflict.value = null
  await bench.refresh()
}
</script>

<template>
  <ElDialog
    :model-value="bench.conflict.value !== null"
    :title="words.conflict.title"
    width="520"
    align-center
    @close="look"
  >
    <p>{{ bench.conflict.value?.detail }}</p>
    <ul v-if="bench.conflict.value?.changed.length">
      <li v-for="c in bench.conflict.value.changed" :key="c.field">
        <b>{{ c.field }}</b>
        <template v-if="c.before"
          >{{ words.conflict.from }} {{ c.before }}, {{ words.conflict.to }}
        </template>
        <span class="num">{{ c.now }}</span>
      </li>
    </ul>
    <template #footer>
      <ElButton type="primary" @click="look">{{ words.conflict.look }}</ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
ul {
  margin-top: 12px;
}
li {
  padding: 7px 0;
  border-top: 1px solid var(--edge);
}
</style>
