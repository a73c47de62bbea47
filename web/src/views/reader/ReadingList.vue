<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Meaning } from '../../api/client'
import { words } from '../../words/en'

/** What a marking may say, likeliest first. */
const props = defineProps<{ readings: Meaning[]; use: string }>()
const emit = defineEmits<{ use: [reading: number] }>()
const FEW = 4
const all = ref(false)
watch(
  () => props.readings,
  () => (all.value = false),
)
const shown = computed(() => (all.value ? props.readings : props.readings.slice(0, FEW)))

/** Everything that the reading says beside its value and tolerance. */
function ratings(m: Meaning): string[] {
  return [
    m.voltage_text,
    m.current == null ? null : m.in_words.split(', ')[1],
    m.power_text,
    m.safety ? `${words.reader.safety} ${m.safety}` : null,
    m.temperature,
    m.family,
  ].filter((t): t is string => !!t)
}
</script>

<template>
  <ol class="rows says" :aria-label="words.reader.says">
    <li v-for="(m, i) in shown" :key="i" :class="{ first: i === 0 }">
      <div class="head">
        <div>
          <template v-if="m.sections.length">
            <b v-for="(s, n) in m.sections" :key="n" class="num section">
              <span v-if="s.sign" class="sign">{{ s.sign }}</span>{{ s.text }}
            </b>
          </template>
          <b v-else class="num">{{ m.shown?.text ?? m.type_number }}</b>
          <span v-if="m.tolerance_text" class="tolerance num">{{ m.tolerance_text }}</span>
          <span class="tolerance">{{ ratings(m).join(' · ') }}</span>
        </div>
        <span class="num share">{{ m.likelihood_text }}</span>
      </div>
      <div class="bar" aria-hidden="true">
        <svg viewBox="0 0 100 2" preserveAspectRatio="none">
          <rect width="100" height="2" class="all" />
          <rect :width="m.likelihood * 100" height="2" class="lit" />
        </svg>
      </div>
      <p class="note">
        <span class="code">{{ m.part }}, {{ m.code }}</span> · {{ m.because.join(' · ') }}
      </p>
      <p v-for="n in m.notes" :key="n" class="note more">{{ n }}</p>
      <p v-if="i === 0" class="note">
        <template v-for="l in m.looks" :key="l.code">
          {{ words.reader.looks[l.code as keyof typeof words.reader.looks] ?? l.code }}
          <b class="num look">{{ l.text }}</b> ·
        </template>
        {{ m.source }}
      </p>
      <button v-if="i > 0" class="link" @click="emit('use', i)">{{ use }}</button>
    </li>
  </ol>
  <button v-if="readings.length > FEW && !all" class="link" @click="all = true">
    {{ readings.length - FEW }} {{ words.reader.more }}
  </button>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  gap: var(--s12);
  align-items: baseline;
}
.says b {
  font-size: var(--t-large);
  font-weight: 600;
  margin-right: var(--s8);
}
.says .first b {
  font-size: var(--t-far);
  font-weight: 500;
  color: var(--numeral);
  line-height: 1.15;
}
.says .first .section {
  font-size: var(--t-value);
  display: block;
}
.says .section {
  display: block;
}
.sign {
  display: inline-block;
  min-width: 3.4em;
  font-size: 0.7em;
  color: var(--muted);
}
.says b.look,
.says .first b.look {
  font-size: var(--t-small);
  line-height: inherit;
  color: var(--light);
  margin: 0;
  white-space: normal;
}
.tolerance {
  color: var(--muted);
  margin-right: var(--s8);
}
.share {
  flex: none;
  color: var(--muted);
}
.bar {
  height: 6px;
  margin: var(--s4) 0 var(--s4);
}
.bar svg {
  width: 100%;
  height: 100%;
  display: block;
  border-radius: 3px;
}
.all {
  fill: var(--baize);
}
.lit {
  fill: var(--lamp);
}
.code {
  color: var(--light);
}
.more {
  color: var(--light);
}
.link {
  color: var(--lamp);
  text-decoration: underline;
  min-height: 32px;
}
</style>
