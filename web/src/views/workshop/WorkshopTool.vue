<script setup lang="ts">
import ToolFrame from '../../components/ToolFrame.vue'
import { words } from '../../words/en'
import InstrumentShelf from './InstrumentShelf.vue'
import PeoplePage from '../people/PeoplePage.vue'
import PastPage from './PastPage.vue'
import RulesPage from './RulesPage.vue'
import SchoolLedger from './SchoolLedger.vue'
import SpeechPage from './SpeechPage.vue'
import WordsPage from './WordsPage.vue'
import { useWorkshopPage, WORKSHOP_PAGES } from './pages'

/** What belongs to the workshop and not to a ticket: its instruments, its own copies of the schools, its past work. */
const page = useWorkshopPage()
</script>

<template>
  <ToolFrame v-model="page" :label="words.workshop.label" :pages="WORKSHOP_PAGES">
    <InstrumentShelf v-if="page === 'instruments'" />
    <SchoolLedger v-else-if="page === 'schools'" />
    <PastPage v-else-if="page === 'past'" />
    <RulesPage v-else-if="page === 'rules'" />
    <WordsPage v-else-if="page === 'words'" />
    <PeoplePage v-else-if="page === 'people'" />
    <SpeechPage v-else />
  </ToolFrame>
</template>
