<script setup lang="ts">
import { watch } from 'vue'
import ToolFrame from '../../components/ToolFrame.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import EquivalentsPage from './EquivalentsPage.vue'
import IdentifyPage from './IdentifyPage.vue'
import IncomingPage from './IncomingPage.vue'
import PairsPage from './PairsPage.vue'
import TypesPage from './TypesPage.vue'
import { PAGES, provideDesk, type Page } from './useDesk'

/** The transistor desk: three leads to a type, a type to what goes in, a lot to pairs; alone, or for the part in hand. */
const bench = useBench()
const { page, wanted, part } = provideDesk(bench.part.value)
const pages = PAGES.map((name) => ({ name, label: words.transistor.pages[name] }))

watch(
  () => bench.card.value,
  (asked) => {
    if (asked && (PAGES as readonly string[]).includes(asked)) page.value = asked as Page
  },
  { immediate: true },
)
// For the part in hand, where it has a type.
if (part?.type_number) wanted.type = part.type_number
</script>

<template>
  <ToolFrame v-model="page" :label="words.transistor.label" :pages="pages">
    <IdentifyPage v-if="page === 'identify'" />
    <EquivalentsPage v-else-if="page === 'equivalents'" />
    <PairsPage v-else-if="page === 'pairs'" />
    <IncomingPage v-else-if="page === 'incoming'" />
    <TypesPage v-else />
  </ToolFrame>
</template>
