<script setup lang="ts">
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'
import { useBench } from './useBench'

const bench = useBench()

async function look() {
  bench.conflict.value = null
  await bench.refresh()
}
</script>

<template>
  <PaperSheet v-if="bench.conflict.value" :title="words.conflict.title" @close="look">
    <p>{{ bench.conflict.value.detail }}</p>
    <ul v-if="bench.conflict.value.changed.length">
      <li v-for="c in bench.conflict.value.changed" :key="c.field">
        <b>{{ c.field }}</b>
        <template v-if="c.before">
          <span>{{ words.conflict.from }}</span>
          <span class="num">{{ c.before }},</span>
          <span>{{ words.conflict.to }}</span>
        </template>
        <span class="num">{{ c.now }}</span>
      </li>
    </ul>
    <div class="actions">
      <ElButton type="primary" autofocus @click="look">{{ words.conflict.look }}</ElButton>
    </div>
  </PaperSheet>
</template>

<style scoped>
ul {
  margin-top: 12px;
}
li {
  padding: 7px 0;
  border-top: 1px solid var(--edge);
  display: flex;
  flex-wrap: wrap;
  gap: 0 1ch;
  align-items: baseline;
}
.actions {
  margin-top: 16px;
  text-align: right;
}
</style>
