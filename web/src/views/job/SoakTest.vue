<script setup lang="ts">
import { useTimestamp } from '@vueuse/core'
import { computed, reactive, ref } from 'vue'
import { api, told, type Closing } from '../../api/client'
import Field from '../../components/Field.vue'
import VerdictMark from '../../drawing/VerdictMark.vue'
import { clockOf, when } from '../../format/time'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSending } from '../station/useSending'

/** The set runs, and somebody looks at it at intervals. */
const props = defineProps<{ closing: Closing; ticket: string | null }>()
const emit = defineEmits<{ taken: [closing: Closing] }>()
const bench = useBench()
const w = words.job.close
const soaking = useSending(bench)
const looking = useSending(bench)
const form = reactive({ planned: '2 h', every: '15 min' })
const seen = ref('')
const soak = computed(() => props.closing.soaks.at(-1) ?? null)
const running = computed(() =>
  soak.value && !props.closing.closed_at && soak.value.due_s !== null ? soak.value : null,
)
// The clock of the page runs on between two answers.
const now = useTimestamp({ interval: 1000 })
const elapsed = computed(() =>
  running.value ? Math.max((now.value - new Date(running.value.begun_at).getTime()) / 1000, 0) : 0,
)
const due = computed(() => (running.value?.due_s == null ? null : running.value.due_s - elapsed.value))

async function begin() {
  const id = props.ticket
  if (!id) return
  const done = await soaking.send({ ...form }, ({ key }) =>
    told(api.POST('/api/tickets/{id}/soaks', { params: { path: { id } }, body: { ...form, key } })),
  )
  if (done) emit('taken', done)
}
async function look(well: boolean) {
  const s = running.value
  if (!s) return
  const content = { well, seen: seen.value, at: s.checks.length }
  const done = await looking.send(content, ({ key }) =>
    told(
      api.POST('/api/soaks/{id}/checks', {
        params: { path: { id: s.id } },
        body: { key, well, seen: seen.value },
      }),
    ),
  )
  if (!done) return
  seen.value = ''
  emit('taken', done)
}
</script>

<template>
  <section class="desk">
    <h3>{{ w.soak }}</h3>
    <template v-if="running">
      <p class="clock">
        <b class="num">{{ clockOf(Math.min(elapsed, running.planned_s)) }}</b>
        <span class="note">{{ w.of }} {{ clockOf(running.planned_s) }}</span>
        <span v-if="due !== null" class="due num" :class="{ now: due <= 0 }">
          {{ due <= 0 ? w.dueNow : `${w.due} ${clockOf(due)}` }}
        </span>
      </p>
      <form class="look" @submit.prevent="look(true)">
        <Field v-slot="{ id, described }" :label="w.seen" :wrong="looking.wrong('seen')">
          <ElInput
            :id="id"
            v-model="seen"
            class="text"
            :placeholder="w.seenExample"
            autocomplete="off"
            :aria-describedby="described"
          />
        </Field>
        <div class="do">
          <ElButton type="primary" native-type="submit" :loading="looking.busy.value">{{ w.well }}</ElButton>
          <ElButton @click="look(false)">{{ w.notWell }}</ElButton>
        </div>
      </form>
    </template>
    <form v-else-if="!closing.closed_at" class="three" @submit.prevent="begin">
      <Field v-slot="{ id, described }" :label="w.planned" :wrong="soaking.wrong('planned')">
        <ElInput :id="id" v-model="form.planned" autocomplete="off" :aria-describedby="described" />
      </Field>
      <Field v-slot="{ id, described }" :label="w.every" :wrong="soaking.wrong('every')">
        <ElInput :id="id" v-model="form.every" autocomplete="off" :aria-describedby="described" />
      </Field>
      <ElButton type="primary" native-type="submit" :loading="soaking.busy.value">{{ w.begin }}</ElButton>
    </form>
    <ol v-for="s in [...closing.soaks].reverse()" :key="s.id" class="rows grid looks">
      <li>
        <span class="note num">{{ when(s.begun_at) }}</span>
        <b>{{ w.ran }} {{ s.ran }}</b>
      </li>
      <li v-for="(c, i) in s.checks" :key="i">
        <span class="note num">{{ c.after }}</span>
        <span :class="c.well ? 'keep' : 'replace'" class="seen"
          ><VerdictMark :verdict="c.well ? 'keep' : 'replace'" :size="16" /> {{ c.seen }}</span
        >
      </li>
    </ol>
    <p
      v-for="s in [soaking, looking]"
      v-show="s.problem.value && !s.problem.value.field"
      :key="String(s)"
      class="problem"
      role="alert"
    >
      {{ s.problem.value?.detail }}
    </p>
  </section>
</template>

<style scoped>
h3 {
  margin-top: var(--s4);
}
.clock {
  display: flex;
  align-items: baseline;
  gap: var(--s6) var(--s14);
  flex-wrap: wrap;
}
.clock b {
  font-size: var(--t-farther);
  line-height: 1.1;
  font-weight: 500;
  color: var(--numeral);
}
.due {
  font-size: var(--t-large);
}
.due.now {
  color: var(--watch);
  font-weight: 700;
}
.look {
  display: grid;
  gap: var(--s8);
}
.three {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: var(--s10);
  align-items: end;
}
.do {
  display: flex;
  gap: var(--s8);
}
.looks {
  --row: 96px 1fr;
  margin-top: var(--s12);
}
.seen {
  display: flex;
  gap: var(--s8);
}
.text :deep(input) {
  font-family: var(--text);
}
</style>
