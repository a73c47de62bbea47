<script setup lang="ts">
import { nextTick, useTemplateRef, watch } from 'vue'
import { words } from '../../words/en'
import PartStrip from './PartStrip.vue'
import { useBench } from './useBench'

const bench = useBench()
const emit = defineEmits<{ add: [] }>()
const rows = useTemplateRef<HTMLElement>('rows')

watch(
  () => bench.part.value?.id,
  async () => {
    await nextTick()
    rows.value?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' })
  },
)
</script>

<template>
  <section class="tray" :aria-label="words.tray.label">
    <div v-if="bench.ticket.value" class="head columns" aria-hidden="true">
      <span>{{ words.tray.part }}</span>
      <span></span>
      <span>{{ words.tray.place }}</span>
      <span class="value">{{ words.tray.sheet }}</span>
      <span class="value">{{ words.tray.marked }}</span>
      <span class="value">{{ words.tray.measured }}</span>
      <span class="right">{{ words.tray.verdict }}</span>
    </div>
    <div ref="rows" class="rows">
      <p v-if="bench.loading.value && !bench.ticket.value" class="empty" role="status">
        {{ words.tray.loading }}
      </p>
      <p v-else-if="bench.missing.value" class="empty" role="alert">{{ bench.missing.value }}</p>
      <p v-else-if="!bench.ticket.value" class="empty">{{ words.tray.none }}</p>
      <template v-else>
        <p v-if="bench.ticket.value.complaint" class="complaint">{{ bench.ticket.value.complaint }}</p>
        <p v-if="bench.ticket.value.parts.length === 0" class="empty">
          {{ words.tray.empty }}<br /><code class="num">{{ words.tray.emptyExample }}</code>
        </p>
        <ul>
          <li v-for="p in bench.ticket.value.parts" :key="p.id">
            <PartStrip :part="p" :selected="p.id === bench.part.value?.id" @select="bench.select(p.name)" />
          </li>
        </ul>
        <button class="add" @click="emit('add')">+ {{ words.tray.add }} <kbd>/</kbd></button>
      </template>
    </div>
  </section>
</template>

<style>
/* shared by the head and the strips, so that their columns stand under each other */
.columns {
  display: grid;
  grid-template-columns: 44px 106px minmax(90px, 1fr) 84px 84px 90px 132px;
  align-items: center;
  padding: 0 12px 0 10px;
}
</style>
<style scoped>
.tray {
  padding: 10px 12px 0 20px;
  min-width: 0;
  min-height: 0;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
}
.head {
  font-size: 12px;
  color: var(--muted);
  padding-bottom: 6px;
}
.head .value {
  text-align: right;
  padding-right: 1.6ch;
}
.head .right {
  text-align: right;
}
.rows {
  overflow-y: auto;
  padding: 2px 4px 8px 2px;
  scrollbar-color: var(--edge-strong) transparent;
  scrollbar-width: thin;
}
.complaint {
  color: var(--muted);
  font: 400 13.5px/1.4 var(--title);
  padding: 2px 10px 10px;
}
.empty {
  color: var(--muted);
  font-size: 15px;
  padding: 40px 24px;
  text-align: center;
}
.empty code {
  display: inline-block;
  margin-top: 10px;
  color: var(--light);
  font-size: 17px;
}

.add {
  margin-top: 8px;
  min-height: 40px;
  padding: 6px 14px;
  color: var(--muted);
  border: 1px dashed var(--edge-strong);
  border-radius: 8px;
}
.add:hover {
  color: var(--light);
}
li + li {
  margin-top: 6px;
}
@media (max-width: 1100px) {
  .tray {
    padding: 8px 8px 0;
  }
}
</style>
