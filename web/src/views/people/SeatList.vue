<script setup lang="ts">
import type { Seat } from '../../api/client'
import { when } from '../../format/time'
import { words } from '../../words/en'

/** Where somebody is signed in; each place can be ended. */
defineProps<{ seats: Seat[] }>()
const emit = defineEmits<{ end: [id: string] }>()
const w = words.people
</script>

<template>
  <p v-if="!seats.length" class="note">{{ w.notSignedIn }}</p>
  <ul v-else class="rows grid seats">
    <li v-for="s in seats" :key="s.id">
      <span>{{ s.bench || w.noBench }}</span>
      <span class="num note">{{ s.address }}</span>
      <span class="note"
        >{{ w.since }} <span class="num">{{ when(s.begun_at) }}</span></span
      >
      <b v-if="s.here" class="keep">{{ w.here }}</b>
      <button
        v-else
        class="link"
        :aria-label="`${w.end}: ${s.bench || s.address}`"
        @click="emit('end', s.id)"
      >
        {{ w.end }}
      </button>
    </li>
  </ul>
</template>

<style scoped>
.seats {
  --row: minmax(0, 1fr) minmax(0, 120px) minmax(0, 1fr) 60px;
}
.link {
  min-height: 36px;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
</style>
