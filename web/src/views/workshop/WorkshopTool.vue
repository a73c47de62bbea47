<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import ToolFrame from '../../components/ToolFrame.vue'
import { words } from '../../words/en'
import InstrumentShelf from './InstrumentShelf.vue'
import SchoolLedger from './SchoolLedger.vue'

/** What belongs to the workshop and not to a ticket: its instruments, and its own copies of the schools. */
const page = useStorage<'instruments' | 'schools'>('owl-workshop', 'instruments')
const pages = (['instruments', 'schools'] as const).map((name) => ({ name, label: words.workshop[name] }))
</script>

<template>
  <ToolFrame v-model="page" :label="words.workshop.label" :pages="pages">
    <InstrumentShelf v-if="page === 'instruments'" />
    <SchoolLedger v-else />
  </ToolFrame>
</template>
