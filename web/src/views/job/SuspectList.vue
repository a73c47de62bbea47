<script setup lang="ts">
import { computed } from 'vue'
import type { FeedSuspect } from '../../api/client'
import { words } from '../../words/en'

/** Which faults explain what was read, the best first; the accused one is drawn with what it does. */
const props = defineProps<{ suspects: FeedSuspect[]; onTray: string[] }>()
const emit = defineEmits<{ select: [name: string] }>()
const accused = defineModel<number | null>({ required: true })
const w = words.job.feed
const even = computed(() => props.suspects.filter((s) => s.explains === props.suspects[0]?.explains).length)
</script>

<template>
  <div>
    <h3>
      {{ w.suspects }} <span v-if="even > 1" class="watch">{{ even }} {{ w.equal }}</span>
    </h3>
    <ul class="rows suspects">
      <li v-for="(s, i) in suspects" :key="s.ref + s.fault" :class="{ on: i === accused }">
        <button :aria-pressed="i === accused" @click="accused = i">
          <span class="bar" aria-hidden="true"><i :style="{ width: `${s.explains * 100}%` }"></i></span>
          <b>{{ s.text }}</b>
          <span class="note">{{ s.because }}</span>
          <span v-for="o in s.overloaded" :key="o.ref" class="replace over">▲ {{ o.text }}</span>
        </button>
        <button v-if="onTray.includes(s.ref)" class="link" @click="emit('select', s.ref)">
          {{ w.select }}
        </button>
      </li>
    </ul>
    <ElButton v-if="accused !== null" text @click="accused = null">{{ w.healthy }}</ElButton>
  </div>
</template>

<style scoped>
.suspects > li {
  display: flex;
  gap: var(--s8);
  padding: 0;
}
.suspects li > button:first-child {
  flex: 1;
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 1px var(--s12);
  padding: var(--s6) var(--s8);
  min-height: 44px;
  text-align: left;
}
.suspects .on {
  background: var(--replace-low);
}
.suspects .note,
.over {
  grid-column: 2;
}
.over {
  font-size: var(--t-note);
  font-weight: 600;
}
.bar {
  align-self: center;
  height: 10px;
  border-radius: 5px;
  background: var(--well);
  overflow: hidden;
}
.bar i {
  display: block;
  height: 100%;
  background: var(--lamp);
}
</style>
