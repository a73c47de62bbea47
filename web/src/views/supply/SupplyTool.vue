<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed, watch } from 'vue'
import ToolFrame from '../../components/ToolFrame.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { SHEETS, type SheetName } from './sheets'
import SupplySheet from './SupplySheet.vue'

/** The sums of supplies, each a sheet with its picture; alone, or for the part in hand. */
const bench = useBench()
const page = useStorage<SheetName>('owl-supply', 'series')
watch(
  () => bench.card.value,
  (asked) => {
    if (asked && asked in words.supply.sheets) page.value = asked as SheetName
  },
  { immediate: true },
)
const sheet = computed(() => SHEETS.find((s) => s.name === page.value) ?? SHEETS[0])
const pages = SHEETS.map((s) => ({ name: s.name, label: words.supply.sheets[s.name] }))
</script>

<template>
  <ToolFrame v-model="page" :label="words.supply.label" :pages="pages">
    <SupplySheet
      v-if="sheet"
      :key="`${sheet.name}-${bench.part.value?.id}`"
      :sheet="sheet"
      :part="bench.part.value"
    />
  </ToolFrame>
</template>
