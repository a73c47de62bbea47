<script setup lang="ts">
import { ref } from 'vue'
import PaperSheet from '../../components/PaperSheet.vue'
import { words } from '../../words/en'
import { useBench } from './useBench'

const bench = useBench()

const looking = ref(false)
/** It closes when everything is as it stands now: what is sent after it is sent upon that. */
async function look() {
  looking.value = true
  await bench.refresh()
  looking.value = false
  bench.conflict.value = null
}
</script>

<template>
  <PaperSheet v-if="bench.conflict.value" :title="words.conflict.title" @close="look">
    <p>{{ bench.conflict.value.detail }}</p>
    <ul v-if="bench.conflict.value.changed.length" class="rows">
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
      <ElButton type="primary" autofocus :loading="looking" @click="look">{{ words.conflict.look }}</ElButton>
    </div>
  </PaperSheet>
</template>

<style scoped>
ul {
  margin-top: var(--s12);
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 1ch;
  align-items: baseline;
}
.actions {
  margin-top: var(--s16);
  text-align: right;
}
</style>
