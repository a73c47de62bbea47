<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue'
import { useEventListener } from '@vueuse/core'
import BackupWarning from './BackupWarning.vue'
import ConflictDialog from './ConflictDialog.vue'
import FirstDay from './FirstDay.vue'
import HereNow from './HereNow.vue'
import FindSheet from './FindSheet.vue'
import JobLine from './JobLine.vue'
import KeysDialog from './KeysDialog.vue'
import LiveRuns from './LiveRuns.vue'
import OldPage from './OldPage.vue'
import OwlLine from './OwlLine.vue'
import ShelfBar from './ShelfBar.vue'
import TicketDialog from './TicketDialog.vue'
import ToolBar from './ToolBar.vue'
import TrayList from './TrayList.vue'
import CardTool from '../reader/CardTool.vue'
import ReaderTool from '../reader/ReaderTool.vue'
import DrawersTool from '../drawers/DrawersTool.vue'
import NetworksTool from '../networks/NetworksTool.vue'
import SupplyTool from '../supply/SupplyTool.vue'
import StationPanel from '../station/StationPanel.vue'
import { words } from '../../words/en'
import { provideBench, type Tool } from './useBench'

// Large and seldom the first thing that is wanted: fetched when the bench stands.
const fetchReform = () => import('../reform/ReformTool.vue')
const fetchWorkshop = () => import('../workshop/WorkshopTool.vue')
const ReformTool = defineAsyncComponent(fetchReform)
const fetchJob = () => import('../job/JobTool.vue')
const JobTool = defineAsyncComponent(fetchJob)
const fetchTransistors = () => import('../transistor/TransistorTool.vue')
const WorkshopTool = defineAsyncComponent(fetchWorkshop)
const TransistorTool = defineAsyncComponent(fetchTransistors)
onMounted(() => void Promise.all([fetchJob(), fetchReform(), fetchTransistors(), fetchWorkshop()]))

const bench = provideBench()
const owl = ref<InstanceType<typeof OwlLine>>()
const tray = ref<InstanceType<typeof TrayList>>()
const station = ref<InstanceType<typeof StationPanel>>()
const reader = ref<InstanceType<typeof ReaderTool>>()
const job = ref<{ begin: (digit: string) => boolean; key: (key: string) => boolean }>()
const reform = ref<{ key: (key: string) => boolean }>()
/** These begin with the part in hand. */
const OF_PART: (Tool | null)[] = ['networks', 'supply', 'transistors']
const waits = computed(() => !bench.settled.value && OF_PART.includes(bench.tool.value))
/** On a phone one of the two is seen: the tray, or the part that was taken from it. */
const half = ref<'tray' | 'part'>('tray')
watch(
  () => bench.askedStep.value,
  (step) => {
    if (step) half.value = 'part'
  },
  { immediate: true },
)
function taken(e: MouseEvent) {
  if ((e.target as Element).closest('.strip, .questions button')) half.value = 'part'
}
const dialog = ref<'keys' | 'new' | 'edit' | 'find' | null>(null)

const TOOL_KEYS: Record<string, Tool> = {
  r: 'reader',
  b: 'drawers',
  c: 'networks',
  s: 'supply',
  v: 'reform',
  t: 'transistors',
  w: 'workshop',
}

/** Begins a reading of the part in hand, where such a part is read in one number. */
function takeReading(digit: string) {
  const part = bench.strip.value
  if (part && !part.steps.includes('measure')) return
  if (part?.read_live) bench.go({ step: 'measure' })
  else owl.value?.begin(part ? `=${digit}` : '')
}

function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.matches('input, textarea, select') || target.isContentEditable)
  )
}

useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  if (e.altKey || e.defaultPrevented || dialog.value || bench.conflict.value) return
  if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'k') {
    dialog.value = 'find'
    e.preventDefault()
    return
  }
  if ((e.ctrlKey || e.metaKey) && e.key === 'z' && !typing(e.target)) {
    if (!e.repeat) bench.undo()
    e.preventDefault()
    return
  }
  if (e.ctrlKey || e.metaKey) return
  // With Num Lock off the pad's keys are arrows, and stay so.
  const pad = e.code.startsWith('Numpad')
  const onward = pad && !bench.tool.value && (e.key === '+' || e.key === '-')
  if (typing(e.target)) {
    if (e.key === 'Escape') (e.target as HTMLElement).blur()
    // In an empty line the pad goes on to the next part: readings in a row without leaving the pad.
    else if (onward && (e.target as HTMLInputElement).value === '') {
      tray.value?.move(e.key === '+' ? 1 : -1)
      e.preventDefault()
    }
    return
  }
  const digit = pad && /^[0-9.,]$/.test(e.key)
  if (digit || e.key === '=') {
    if (!(digit && job.value?.begin(e.key))) takeReading(digit ? e.key : '')
    e.preventDefault()
    return
  }
  const onButton = e.target instanceof HTMLElement && e.target.closest('button, a, [role=button]')
  // At the reforming station its own keys come first: S stops there.
  if (reform.value && !(onButton && e.key === 'Enter') && reform.value.key(e.key)) {
    e.preventDefault()
    return
  }
  if (job.value && !(onButton && e.key === 'Enter') && job.value.key(e.key)) {
    e.preventDefault()
    return
  }
  const at = Number(e.key)
  const step = at >= 1 ? bench.steps.filter((s) => bench.strip.value?.steps.includes(s))[at - 1] : undefined
  if (e.key === 'Escape' && bench.tool.value)
    void bench.openTool(bench.tool.value === 'cards' ? 'reader' : null)
  else if (TOOL_KEYS[e.key.toLowerCase()]) void bench.openTool(TOOL_KEYS[e.key.toLowerCase()] ?? null)
  else if (e.key === 'p' || e.key === 'P')
    bench.openStage(bench.page.value === 'sockets' ? 'parts' : 'sockets')
  else if (e.key === 'j') bench.moveStage(1)
  else if (e.key === 'J') bench.moveStage(-1)
  else if (onward) tray.value?.move(e.key === '+' ? 1 : -1)
  else if (e.key === 'f' || e.key === 'F') tray.value?.find()
  else if (e.key === 'o' || e.key === 'O') tray.value?.turn()
  else if (e.key === 'm' || e.key === 'M') tray.value?.measure()
  // A step's digit leads to it; once more, and its field is entered.
  else if (step && bench.strip.value) {
    if (step === bench.askedStep.value && !bench.tool.value) station.value?.enter()
    else bench.go({ step })
  } else if (e.key === '/') owl.value?.begin('')
  else if (e.key === 'ArrowDown') tray.value?.move(1)
  else if (e.key === 'ArrowUp') tray.value?.move(-1)
  else if (e.key === '[') bench.moveTicket(-1)
  else if (e.key === ']') bench.moveTicket(1)
  else if (e.key === '?') dialog.value = 'keys'
  else if (e.key === 'n' || e.key === 'N') dialog.value = 'new'
  else if ((e.key === 'e' || e.key === 'E') && bench.ticket.value) dialog.value = 'edit'
  else if (e.key === 'Enter' && !onButton) (reader.value ?? station.value)?.main()
  else if (e.key === 'z' || e.key === 'Z') {
    if (!e.repeat) bench.undo()
  } else if (e.key === 'd' || e.key === 'D') station.value?.otherwise()
  else return
  e.preventDefault()
})
</script>

<template>
  <div class="bench">
    <ShelfBar @add="dialog = 'new'" @keys="dialog = 'keys'" @edit="dialog = 'edit'" @find="dialog = 'find'" />
    <div>
      <div class="way">
        <JobLine />
        <ToolBar />
        <HereNow />
      </div>
      <LiveRuns />
      <OldPage />
      <BackupWarning />
    </div>
    <main :class="half">
      <JobTool v-if="bench.tool.value === 'job'" ref="job" :key="bench.ticketId.value ?? ''" />
      <p v-else-if="waits" class="desk loading">{{ words.job.loading }}</p>
      <ReaderTool v-else-if="bench.tool.value === 'reader'" ref="reader" />
      <CardTool v-else-if="bench.tool.value === 'cards'" />
      <DrawersTool v-else-if="bench.tool.value === 'drawers'" />
      <NetworksTool v-else-if="bench.tool.value === 'networks'" :key="bench.part.value?.id" />
      <SupplyTool v-else-if="bench.tool.value === 'supply'" />
      <ReformTool v-else-if="bench.tool.value === 'reform'" ref="reform" />
      <TransistorTool v-else-if="bench.tool.value === 'transistors'" :key="bench.part.value?.id" />
      <WorkshopTool v-else-if="bench.tool.value === 'workshop'" />
      <template v-else>
        <FirstDay v-if="bench.shelf.value?.length === 0" @add="dialog = 'new'" />
        <template v-else>
          <nav class="halves" :aria-label="words.halves.label">
            <button :aria-pressed="half === 'tray'" @click="half = 'tray'">{{ words.halves.tray }}</button>
            <button :aria-pressed="half === 'part'" @click="half = 'part'">
              {{ bench.strip.value?.name ?? words.halves.part }}
            </button>
          </nav>
          <TrayList ref="tray" @add="owl?.begin('')" @click="taken" />
          <StationPanel ref="station" />
        </template>
      </template>
    </main>
    <OwlLine ref="owl" />
    <FindSheet v-if="dialog === 'find'" @close="dialog = null" @open="dialog = $event" />
    <KeysDialog v-if="dialog === 'keys'" @close="dialog = null" />
    <TicketDialog
      v-if="dialog === 'new' || dialog === 'edit'"
      :change="dialog === 'edit' ? bench.ticket.value : null"
      @close="dialog = null"
    />
    <ConflictDialog />
  </div>
</template>

<style scoped>
.bench {
  height: 100%;
  display: grid;
  grid-template-rows: 76px auto minmax(0, 1fr) auto;
  grid-template-columns: minmax(0, 1fr);
  background: radial-gradient(ellipse 900px 520px at 74% 42%, var(--baize-lit) 0, var(--baize) 75%);
}
/* the job of the ticket, and who else is at it: beside it, or below where there is no room */
.way {
  display: flex;
  flex-wrap: wrap;
  background: var(--wood-low);
  border-bottom: 1px solid var(--wood-edge);
}
.way > :first-child {
  flex: 1 1 0;
  min-width: min(100%, 660px);
}
main {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 486px;
  min-height: 0;
}
.halves {
  display: none;
}
/* a large screen stands further away: everything grows with it */
@media (min-width: 1700px) {
  .bench {
    zoom: 1.2;
  }
  main {
    grid-template-columns: minmax(0, 1fr) 560px;
  }
}
@media print {
  .bench,
  main {
    display: block;
    height: auto;
    background: none;
  }
  .bench > header,
  .bench > footer {
    display: none;
  }
}
@media (max-width: 1100px) {
  .bench {
    grid-template-rows: auto auto minmax(0, 1fr) auto;
  }
  main {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(150px, 34%) minmax(0, 1fr);
  }
}
/* a phone shows one thing at a time */
@media (max-width: 700px) {
  main.tray,
  main.part {
    grid-template-rows: auto minmax(0, 1fr);
  }
  main > :only-child {
    grid-row: 1 / -1;
  }
  .halves {
    display: grid;
    grid-template-columns: 1fr 1fr;
    padding: var(--s8) var(--s8) 0;
    gap: var(--s4);
  }
  .halves button {
    min-height: 44px;
    border-radius: 8px;
    border: 1px solid var(--edge);
    color: var(--muted);
    font-weight: 600;
    text-align: center;
  }
  .halves [aria-pressed='true'] {
    background: var(--panel);
    color: var(--light);
    border-color: var(--lamp);
  }
  main.tray > .station,
  main.part > .tray {
    display: none;
  }
}
</style>
