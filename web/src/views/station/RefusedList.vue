<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Substitutes } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import { useSought } from './useSought'

/** What must not go in, each with its reason; what somebody looks for is found among all of it, in any spelling. */
const props = defineProps<{ part: string; refused: Substitutes['refused'] }>()
const SHOWN = 4
const all = ref(false)
const { sought, found, problem, busy } = useSought(props.part)
const rows = computed(() => found.value ?? props.refused)
const shown = computed(() => (all.value || found.value ? rows.value : rows.value.slice(0, SHOWN)))
</script>

<template>
  <details class="refused" open>
    <summary>{{ words.fit.refused }}</summary>
    <Field
      v-if="refused.length > SHOWN"
      v-slot="{ id }"
      :label="words.fit.whereIs"
      :wrong="problem"
      class="sought"
    >
      <ElInput :id="id" v-model="sought" size="small" clearable autocomplete="off" @keydown.enter.prevent />
    </Field>
    <ul class="rows grid">
      <li v-for="r in shown" :key="r.description + r.because">
        <span class="what">
          <s>{{ r.description }}</s>
          <span v-if="r.place" class="lies">{{ r.place }}</span>
        </span>
        <span>{{ r.because }}</span>
      </li>
    </ul>
    <p v-if="busy" role="status">{{ words.fit.looking }}</p>
    <p v-else-if="!rows.length" role="status">{{ words.fit.noneRefused }}</p>
    <button v-if="rows.length > shown.length" type="button" class="link" @click="all = true">
      {{ words.fit.moreRefused(rows.length - shown.length) }}
    </button>
  </details>
</template>

<style scoped>
.refused {
  margin-top: var(--s8);
  font-size: var(--t-small);
  color: var(--muted);
}
.refused summary {
  font: 600 var(--t-lead) var(--title);
  cursor: pointer;
  min-height: 32px;
}
.refused ul {
  --row: minmax(0, 2fr) minmax(0, 3fr);
}
.sought {
  display: flex;
  align-items: center;
  gap: var(--s8);
  margin-bottom: var(--s4);
}
.lies {
  display: block;
  color: var(--light);
}
.link {
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  min-height: 36px;
}
</style>
