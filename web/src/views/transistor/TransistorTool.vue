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
const { page, wanted } = provideDesk()
const pages = PAGES.map((name) => ({ name, label: words.transistor.pages[name] }))

watch(
  () => bench.card.value,
  (asked) => {
    if (asked && (PAGES as readonly string[]).includes(asked)) page.value = asked as Page
  },
  { immediate: true },
)
// For the part in hand, where it has a type.
watch(
  () => bench.part.value?.id,
  () => {
    const part = bench.part.value
    const semiconductor = part && ['transistor', 'diode', 'integrated circuit'].includes(part.kind)
    if (semiconductor && part.type_number) {
      wanted.type = part.type_number
      wanted.ratings = null
    }
  },
  { immediate: true },
)
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

<style>
/* what the desk's pages share */
.desk {
  min-height: 0;
  overflow-y: auto;
  padding: 14px 18px;
  scrollbar-width: thin;
  scrollbar-color: var(--edge-strong) transparent;
}
.desk-page {
  display: grid;
  grid-template-columns: var(--columns);
  min-height: 0;
}
.desk-page > .desk + .desk {
  border-left: 1px solid var(--edge);
}
@media (max-width: 1000px) {
  .desk-page {
    grid-template-columns: minmax(0, 1fr);
    grid-auto-rows: max-content;
    overflow-y: auto;
  }
  .desk-page > .desk {
    overflow: visible;
  }
  .desk-page > .desk + .desk {
    border-left: 0;
    border-top: 1px solid var(--edge);
  }
}
.desk h3 {
  font: 600 15px/1.3 var(--title);
  margin: 14px 0 5px;
}
.desk .el-button kbd {
  margin-left: 8px;
}
.desk .link {
  display: inline-flex;
  align-items: center;
  color: var(--muted);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  min-height: 36px;
  font-size: 13.5px;
}
.desk .problem {
  color: var(--replace);
  padding: 6px 0;
}
.desk .loading {
  color: var(--muted);
  padding: 20px 0;
}
.desk .el-button + .el-button {
  margin-left: 0;
}
</style>
