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
    <h2 class="sr">{{ pages.find((p) => p.name === page)?.label ?? label }}</h2>
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
  margin: var(--s12) var(--s16) var(--s10) var(--s20);
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
  padding: var(--s4) var(--s16);
  color: var(--muted);
  font: 600 var(--t-lead) var(--title);
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
  padding: var(--s4) var(--s12);
  font-size: var(--t-body);
}
nav .back {
  margin-left: auto;
  position: sticky;
  right: 0;
  background: var(--panel);
  border: 0;
  font: 500 var(--t-note) var(--text);
}
</style>
