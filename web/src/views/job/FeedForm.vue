<script setup lang="ts">
import { computed } from 'vue'
import type { Feeds } from '../../api/client'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import type { useFeeds } from './useFeeds'

/** A supply branch as it is told: a part a line, and at each node what the sheet says and what was read. */
const props = defineProps<{ use: ReturnType<typeof useFeeds>; data: Feeds }>()
const w = words.job.feed
const { feed, draft, sending } = props.use
const nodeWrong = (i: number, of: 'sheet' | 'measured') => {
  const sent = draft.nodes.filter((n) => n.sheet || n.measured)
  const n = draft.nodes[i]
  return n ? sending.wrong(`nodes[${sent.indexOf(n)}].${of}`) : null
}
const general = computed(() => {
  const p = sending.problem.value
  return p && !/^(name|rail|parts|nodes\[)/.test(p.field ?? '') ? p.detail : null
})
const of = (node: string) => feed.value?.nodes.find((n) => n.node === node)
</script>

<template>
  <form class="desk told" @submit.prevent="use.save">
    <div class="chips row" role="group" :aria-label="words.job.stages.feed">
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
            <span v-if="nodeWrong(i, 'sheet')" class="problem" role="alert">{{ nodeWrong(i, 'sheet') }}</span>
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
</template>

<style scoped>
.told {
  display: grid;
  gap: var(--s8);
  align-content: start;
}
.two {
  display: grid;
  grid-template-columns: 1fr 130px;
  gap: var(--s10);
}
.text :deep(input) {
  font-family: var(--text);
}
.lines :deep(textarea) {
  font: 500 var(--t-body)/1.5 var(--num);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  text-align: left;
  font: 500 var(--t-small) var(--text);
  color: var(--muted);
}
td {
  padding: var(--s2) var(--s6) var(--s2) 0;
  font-weight: 550;
}
.do {
  display: flex;
  gap: var(--s6) var(--s14);
  align-items: center;
}
</style>
