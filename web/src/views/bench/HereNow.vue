<script setup lang="ts">
import { computed } from 'vue'
import { words } from '../../words/en'
import { useBench } from './useBench'

/** Who else is at the open ticket. */
const bench = useBench()
const w = words.here
const names = computed(() => {
  const all = bench.others.value.map((o) =>
    o.own || !o.name ? w.window : o.bench ? w.at(o.name, o.bench) : o.name,
  )
  return [...new Set(all)]
})
</script>

<template>
  <p class="here" role="status" :class="{ nobody: !names.length }">
    <template v-if="names.length">
      <i aria-hidden="true"></i>{{ w.also }} <b>{{ names.join(', ') }}</b>
    </template>
  </p>
</template>

<style scoped>
.here {
  margin-left: auto;
  padding: var(--s8) var(--s20);
  color: var(--on-wood);
  font-size: var(--t-note);
}
.nobody {
  display: none;
}
i {
  display: inline-block;
  width: 9px;
  height: 9px;
  margin-right: var(--s8);
  border-radius: 50%;
  background: var(--lamp);
}
</style>
