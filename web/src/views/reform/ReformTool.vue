<script setup lang="ts">
import { useTemplateRef, watch } from 'vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import PrepareForm from './PrepareForm.vue'
import ReformQueue from './ReformQueue.vue'
import RunStation from './RunStation.vue'
import { useReform } from './useReform'

const bench = useBench()
const reform = useReform()
const station = useTemplateRef('station')
defineExpose({ key: (key: string) => station.value?.key(key) ?? false })

// Opened from an electrolytic that is not on the bench yet, it prepares that one, unless something is under way; from one
// that is, it shows its run.
watch([reform.desk, reform.candidates], ([desk, candidates], [before, had]) => {
  if (!desk || !candidates || (before && had)) return
  const part = bench.part.value
  const lying = desk.queue.find((r) => r.part_id === part?.id)
  if (lying) reform.watchRun(lying.id)
  else if (!desk.queue.length && part && candidates.some((c) => c.part_id === part.id && !c.refused))
    reform.prepare(part.id)
})
</script>

<template>
  <section class="reform" :aria-label="words.reform.label">
    <div class="main">
      <PrepareForm
        v-if="reform.preparing.value"
        :key="reform.preparing.value"
        :part="reform.preparing.value"
        @made="reform.watchRun"
      />
      <RunStation v-else-if="reform.run.value" ref="station" :reform="reform" :run="reform.run.value" />
      <p v-else class="empty">
        {{ reform.chosen.value || !reform.desk.value ? words.reform.loading : words.reform.none }}
      </p>
    </div>
    <ReformQueue :reform="reform" />
  </section>
</template>

<style scoped>
.reform {
  grid-column: 1 / -1;
  grid-row: 1 / -1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 326px;
  gap: var(--s14);
  padding: var(--s12) var(--s16) var(--s10) var(--s20);
}
.main {
  min-height: 0;
  min-width: 0;
  background: linear-gradient(var(--panel), var(--panel-low));
  border: 1px solid var(--edge-strong);
  border-radius: 12px;
  overflow: hidden;
  display: grid;
}
.empty {
  place-self: center;
  color: var(--muted);
  padding: 30px;
  text-align: center;
}
@media (max-width: 1100px) {
  .reform {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(0, 1fr) minmax(120px, 26%);
    padding: var(--s10) var(--s12);
  }
}
</style>
