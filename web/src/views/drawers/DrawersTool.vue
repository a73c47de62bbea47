<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import ToolFrame from '../../components/ToolFrame.vue'
import { words } from '../../words/en'
import LotList from './LotList.vue'
import ShoppingList from './ShoppingList.vue'

/** What lies in the drawers, and what is to be bought. */
const page = useStorage<'lots' | 'shopping'>('owl-drawers', 'lots')
const pages = (['lots', 'shopping'] as const).map((name) => ({ name, label: words.drawers[name] }))
</script>

<template>
  <ToolFrame v-model="page" :label="words.drawers.label" :pages="pages">
    <LotList v-if="page === 'lots'" />
    <ShoppingList v-else />
  </ToolFrame>
</template>
