<script setup lang="ts">
import { computed } from 'vue'
import Field from '../../components/Field.vue'
import FeedDrawing from '../../drawing/FeedDrawing.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useFeeds } from './useFeeds'

/** The guilty part: a feed told a part a line, solved with each fault, drawn with what it does to the others. */
const bench = useBench()
const w = words.job.feed
const use = useFeeds()
const { data, problem, feed, draft, accused, sending } = use
const answer = computed(() => feed.value?.answer ?? null)
const suspect = computed(() =>
  accused.value === null ? null : (answer.value?.suspects[accused.value] ?? null),
)
const flow = computed(() => suspect.value?.flow ?? answer.value?.flow ?? [])
const volts = computed(() => suspect.value?.volts_text ?? answer.value?.expected_text ?? {})
const best = computed(() => answer.value?.suspects[0]?.fit)
const even = computed(() => answer.value?.suspects.filter((s) => s.fit === best.value).length ?? 0)
const written = computed(() => {
  const f = feed.value
  if (!f) return true
  return (
    draft.parts !== f.told ||
    draft.rail !== f.rail.text ||
    draft.name !== f.name ||
    draft.nodes.some((n) => {
      const now = f.nodes.find((x) => x.node === n.node)
      const was = n.node === 'rail' ? f.rail.text : now?.sheet_from_chart ? '' : (now?.sheet?.text ?? '')
      return n.sheet !== was || n.measured !== (now?.from_chart ? '' : (now?.measured?.text ?? ''))
    })
  )
})
const nodeWrong = (i: number, of: 'sheet' | 'measured') => {
  const sent = draft.nodes.filter((n) => n.sheet || n.measured)
  const n = draft.nodes[i]
  return n ? sending.wrong(`nodes[${sent.indexOf(n)}].${of}`) : null
}
const general = computed(() => {
  const p = sending.problem.value
  return p && !/^(name|rail|parts|nodes\[)/.test(p.field ?? '') ? p.detail : null
})
function pick(name: string) {
  const at = answer.value?.suspects.findIndex((s) => s.ref === name) ?? -1
  if (at >= 0) accused.value = at
  else if (feed.value?.parts.find((p) => p.ref === name)?.on_tray) bench.select(name)
}
const of = (node: string) => feed.value?.nodes.find((n) => n.node === node)
</script>

<template>
  <p v-if="problem && !data" class="desk problem" role="alert">
    {{ problem.detail }} <button class="link" @click="use.fetch">{{ words.away.again }}</button>
  </p>
  <p v-else-if="!data" class="desk loading">{{ words.job.loading }}</p>
  <div v-else class="desk-page page">
    <form class="desk told" @submit.prevent="use.save">
      <div class="chips feeds" role="group" :aria-label="words.job.stages.feed">
        <button
          v-for="f in data.feeds"
          :key="f.id"
          type="button"
          :class="{ on: f.id === draft.id }"
          :aria-pressed="f.id === draft.id"
          @click="use.open(f)"
        >
          {{ f.name }}
        </button>
        <button type="button" @click="use.begin(false)">+ {{ w.newFeed }}</button>
        <button v-if="data.from_tray" type="button" @click="use.begin(true)">{{ w.tray }}</button>
      </div>
      <div class="two">
        <Field v-slot="{ id, described }" :label="w.name" :wrong="sending.wrong('name')">
          <ElInput :id="id" v-model="draft.name" class="text" :aria-describedby="described" />
        </Field>
        <Field v-slot="{ id, described }" :label="w.rail" :wrong="sending.wrong('rail')">
          <ElInput
            :id="id"
            v-model="draft.rail"
            placeholder="265 V"
            autocomplete="off"
            :aria-describedby="described"
          />
        </Field>
      </div>
      <Field v-slot="{ id, described }" :label="w.parts" :wrong="sending.wrong('parts')">
        <ElInput
          :id="id"
          v-model="draft.parts"
          type="textarea"
          class="lines"
          :rows="Math.min(Math.max(draft.parts.split('\n').length + 1, 5), 12)"
          :placeholder="w.example"
          spellcheck="false"
          :aria-describedby="described"
        />
      </Field>
      <table v-if="draft.nodes.length">
        <thead>
          <tr>
            <th>{{ w.node }}</th>
            <th>{{ w.sheet }}</th>
            <th>{{ w.measured }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(n, i) in draft.nodes" :key="n.node">
            <td>{{ n.node }}</td>
            <td>
              <ElInput
                v-model="n.sheet"
                :disabled="n.node === 'rail'"
                :placeholder="n.sheet_from_chart ? `${of(n.node)?.sheet?.text}, ${w.fromChart}` : ''"
                :aria-label="`${n.node}, ${w.sheet}`"
                autocomplete="off"
              />
              <span v-if="nodeWrong(i, 'sheet')" class="problem" role="alert">{{
                nodeWrong(i, 'sheet')
              }}</span>
            </td>
            <td>
              <ElInput
                v-model="n.measured"
                :placeholder="n.from_chart ? `${of(n.node)?.measured?.text}, ${w.fromChart}` : ''"
                :aria-label="`${n.node}, ${w.measured}`"
                autocomplete="off"
              />
              <span v-if="nodeWrong(i, 'measured')" class="problem" role="alert">{{
                nodeWrong(i, 'measured')
              }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <Field v-if="data.runs.length > 1" v-slot="{ id }" :label="w.run">
        <ElSelect :id="id" :model-value="data.run ?? ''" @update:model-value="use.hold">
          <ElOption v-for="r in data.runs" :key="r.id" :value="r.id" :label="r.name" />
        </ElSelect>
      </Field>
      <p v-if="general" class="problem" role="alert">{{ general }}</p>
      <div class="do">
        <ElButton type="primary" native-type="submit" :loading="sending.busy.value">{{ w.ask }}</ElButton>
        <template v-if="draft.id">
          <a class="link" :href="`/api/feeds/${draft.id}/netlist`" download>{{ w.netlist }}</a>
          <ElPopconfirm :title="w.removeAsk" width="240" @confirm="use.remove">
            <template #reference
              ><ElButton text>{{ w.remove }}</ElButton></template
            >
          </ElPopconfirm>
        </template>
      </div>
    </form>
    <section class="desk" aria-live="polite">
      <p v-if="!feed" class="loading">{{ w.none }}</p>
      <template v-else>
        <p v-if="answer && !written" class="says" :class="answer.agrees ? 'keep' : ''">{{ answer.says }}</p>
        <p v-else-if="feed.missing && !written" class="watch">{{ feed.missing }}</p>
        <FeedDrawing
          :feed="feed"
          :flow="flow"
          :volts="volts"
          :accused="suspect?.ref ?? null"
          :overloaded="suspect?.overloaded.map((o) => o.ref) ?? []"
          :label="answer?.says ?? feed.name"
          :class="{ old: written }"
          @pick="pick"
        />
        <template v-if="answer && answer.suspects.length">
          <h3>
            {{ w.suspects }} <span v-if="even > 1" class="watch">{{ even }} {{ w.equal }}</span>
          </h3>
          <ul class="suspects">
            <li v-for="(s, i) in answer.suspects" :key="s.ref + s.fault" :class="{ on: i === accused }">
              <button :aria-pressed="i === accused" @click="accused = i">
                <span class="bar" aria-hidden="true"><i :style="{ width: `${s.fit * 100}%` }"></i></span>
                <b>{{ s.text }}</b>
                <span class="note">{{ s.because }}</span>
                <span v-for="o in s.overloaded" :key="o.ref" class="replace over">▲ {{ o.text }}</span>
              </button>
              <button
                v-if="feed.parts.find((p) => p.ref === s.ref)?.on_tray"
                class="link"
                @click="bench.select(s.ref)"
              >
                {{ w.select }}
              </button>
            </li>
          </ul>
          <ElButton v-if="accused !== null" text @click="accused = null">{{ w.healthy }}</ElButton>
        </template>
        <template v-if="answer?.doubles.length">
          <h3>{{ w.doubles }}</h3>
          <ul>
            <li v-for="d in answer.doubles" :key="d.text">
              <b>{{ d.text }}</b> <span class="note">{{ d.because }}</span>
            </li>
          </ul>
        </template>
      </template>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 8fr) minmax(0, 15fr);
}
.told {
  display: grid;
  gap: 9px;
  align-content: start;
}
.feeds {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.feeds button {
  min-height: 40px;
  padding: 4px 11px;
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
}
.feeds .on {
  background: var(--baize);
  border-color: var(--lamp);
  color: var(--numeral);
  font-weight: 600;
}
.two {
  display: grid;
  grid-template-columns: 1fr 130px;
  gap: 10px;
}
.text :deep(input) {
  font-family: var(--text);
}
.lines :deep(textarea) {
  font: 500 14.5px/1.5 var(--num);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  text-align: left;
  font: 500 12.5px var(--text);
  color: var(--muted);
}
td {
  padding: 3px 6px 3px 0;
  font-weight: 550;
}
.do {
  display: flex;
  gap: 6px 14px;
  align-items: center;
}
.says {
  font-size: 16.5px;
  line-height: 1.45;
  padding-bottom: 10px;
}
.old {
  opacity: 0.45;
}
.suspects li {
  display: flex;
  gap: 8px;
  border-top: 1px solid var(--edge);
}
.suspects li > button:first-child {
  flex: 1;
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 1px 12px;
  padding: 7px 8px;
  min-height: 44px;
  text-align: left;
}
.suspects .on {
  background: var(--replace-low);
}
.suspects .note,
.over {
  grid-column: 2;
}
.over {
  font-size: 13.5px;
  font-weight: 600;
}
.bar {
  align-self: center;
  height: 10px;
  border-radius: 5px;
  background: var(--well);
  overflow: hidden;
}
.bar i {
  display: block;
  height: 100%;
  background: var(--lamp);
}
</style>
