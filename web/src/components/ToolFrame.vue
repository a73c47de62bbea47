<script setup lang="ts" generic="P extends string">
import { words } from '../words/en'
import { useBench } from '../views/bench/useBench'

/** A tool that stands where tray and station stand: its pages along the top, the way back at the right. */
defineProps<{ label: string; pages: readonly { name: P; label: string }[] }>()
const page = defineModel<P>({ required: true })
const bench = useBench()
</script>

<template>
  <section class="frame" :aria-label="label">
    <nav :class="{ many: pages.length > 5 }">
      <button
        v-for="p in pages"
        :key="p.name"
        :class="{ on: page === p.name }"
        :aria-current="page === p.name ? 'page' : undefined"
        @click="page = p.name"
      >
        {{ p.label }}
      </button>
      <button class="back" @click="bench.openTool(null)">{{ words.workshop.back }} <kbd>Esc</kbd></button>
    </nav>
    <slot />
  </section>
</template>

<style scoped>
.frame {
  grid-column: 1 / -1;
  grid-row: 1 / -1;
  min-height: 0;
  min-width: 0;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  margin: 12px 18px 10px 20px;
  background: linear-gradient(var(--panel), var(--panel-low));
  border: 1px solid var(--edge-strong);
  border-radius: 12px;
  overflow: hidden;
}
nav {
  display: flex;
  border-bottom: 1px solid var(--edge);
  overflow-x: auto;
  scrollbar-width: none;
}
nav button {
  min-height: 44px;
  padding: 4px 18px;
  color: var(--muted);
  font: 600 15px var(--title);
  border-right: 1px solid var(--edge);
  white-space: nowrap;
}
nav button:focus-visible {
  outline-offset: -3px;
}
nav .on {
  color: var(--lamp-ink);
  background: var(--lamp);
}
.many button {
  padding: 4px 12px;
  font-size: 14px;
}
nav .back {
  margin-left: auto;
  position: sticky;
  right: 0;
  background: var(--panel);
  border: 0;
  font: 500 13.5px var(--text);
}
</style>
