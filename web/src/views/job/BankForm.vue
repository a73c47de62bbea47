<script setup lang="ts">
import type { Banks } from '../../api/client'
import ChoiceChips from '../../components/ChoiceChips.vue'
import Field from '../../components/Field.vue'
import { words } from '../../words/en'
import type { useBanks } from './useBanks'

/** What is in series: the members and what lies across them, by their names. */
const props = defineProps<{ use: ReturnType<typeof useBanks>; data: Banks }>()
const w = words.job.bank
const { draft, kind, sending } = props.use
const general = () => {
  const p = sending.problem.value
  return p && !/^(name|volts|members|across|marking|across_marking|legs)$/.test(p.field ?? '')
    ? p.detail
    : null
}
</script>

<template>
  <form class="desk told" @submit.prevent="use.save">
    <div class="chips row" role="group" :aria-label="w.title">
      <button
        v-for="b in data.banks"
        :key="b.id"
        type="button"
        :class="{ on: b.id === draft.id }"
        :aria-pressed="b.id === draft.id"
        @click="use.open(b)"
      >
        {{ b.name }}
      </button>
      <button type="button" :class="{ on: !draft.id }" :aria-pressed="!draft.id" @click="use.begin">
        + {{ w.add }}
      </button>
    </div>
    <ChoiceChips
      v-model="draft.kind"
      :label="w.kind"
      seen
      columns="repeat(3, minmax(0, 1fr))"
      :options="data.kinds.map((k) => ({ value: k.kind, label: w.kinds[k.kind] }))"
    />
    <Field v-slot="{ id, described }" :label="w.name" :wrong="sending.wrong('name')">
      <ElInput
        :id="id"
        v-model="draft.name"
        class="text"
        :placeholder="w.names[draft.kind]"
        :aria-describedby="described"
      />
    </Field>
    <Field
      v-slot="{ id, described }"
      :label="kind?.volts_meaning ?? w.volts"
      :wrong="sending.wrong('volts')"
      :hint="kind?.volts ? w.ofTheSet(kind.volts.text) : undefined"
    >
      <span class="volts">
        <ElInput :id="id" v-model="draft.volts" autocomplete="off" :aria-describedby="described" />
        <ElButton v-if="kind?.volts && !draft.volts" @click="draft.volts = kind.volts.text">{{
          w.take(kind.volts.text)
        }}</ElButton>
      </span>
    </Field>
    <div class="two">
      <Field v-slot="{ id, described }" :label="w.members" :wrong="sending.wrong('members')">
        <ElInput
          :id="id"
          v-model="draft.members"
          :placeholder="`${kind?.letter}41-${kind?.letter}46`"
          autocomplete="off"
          :aria-describedby="described"
        />
      </Field>
      <Field v-slot="{ id, described }" :label="w.marking" :wrong="sending.wrong('marking')">
        <ElInput
          :id="id"
          v-model="draft.marking"
          :placeholder="w.markings[draft.kind]"
          autocomplete="off"
          :aria-describedby="described"
        />
      </Field>
      <template v-if="kind?.across">
        <Field v-slot="{ id, described }" :label="w.across" :wrong="sending.wrong('across')">
          <ElInput
            :id="id"
            v-model="draft.across"
            placeholder="R41-R46"
            autocomplete="off"
            :aria-describedby="described"
          />
        </Field>
        <Field v-slot="{ id, described }" :label="w.marking" :wrong="sending.wrong('across_marking')">
          <ElInput
            :id="id"
            v-model="draft.across_marking"
            placeholder="150k 3W"
            autocomplete="off"
            :aria-describedby="described"
          />
        </Field>
      </template>
    </div>
    <ChoiceChips
      v-if="draft.kind === 'diode string' && !draft.id"
      :model-value="draft.legs ?? 1"
      :label="w.legs"
      seen
      columns="repeat(4, minmax(0, 1fr))"
      :options="[1, 2, 4, 6].map((n) => ({ value: n, label: w.legsOf(n) }))"
      @update:model-value="(n) => (draft.legs = n ?? null)"
    />
    <p v-if="sending.wrong('legs')" class="problem" role="alert">{{ sending.wrong('legs') }}</p>
    <p class="note">{{ w.fromHigh }}</p>
    <p v-if="general()" class="problem" role="alert">{{ general() }}</p>
    <div class="do stick">
      <ElButton type="primary" native-type="submit" :loading="sending.busy.value">{{ w.save }}</ElButton>
      <ElPopconfirm v-if="draft.id" :title="w.removeAsk" width="240" @confirm="use.remove">
        <template #reference
          ><ElButton text>{{ w.remove }}</ElButton></template
        >
      </ElPopconfirm>
    </div>
  </form>
</template>

<style scoped>
.told {
  display: grid;
  gap: var(--s10);
  align-content: start;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s10);
}
.volts {
  display: flex;
  gap: var(--s10);
}
.text :deep(input) {
  font-family: var(--text);
}
.do {
  display: flex;
  gap: var(--s6) var(--s14);
  align-items: center;
}
</style>
