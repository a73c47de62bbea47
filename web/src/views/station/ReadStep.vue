<script setup lang="ts">
import { computed } from 'vue'
import type { Part } from '../../api/client'
import Field from '../../components/Field.vue'
import ResistorDrawing from '../../drawing/ResistorDrawing.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import PartDetails from './PartDetails.vue'
import PartTitle from './PartTitle.vue'
import { useReader } from './useReader'

const props = defineProps<{ part: Part }>()
const bench = useBench()
const reader = useReader(bench, () => props.part)
const { text, bands, chosen, answer, wrong, colours, dirty } = reader

const first = computed(() => answer.value?.[0])
const percent = (share: number) => `${Math.round(share * 100)} %`

defineExpose({ main: () => void reader.use(0) })
</script>

<template>
  <div>
    <div class="body">
      <PartTitle :part="part" />
      <Field v-slot="{ id, described }" :label="words.read.marking" :wrong="wrong">
        <input
          :id="id"
          v-model="text"
          class="big-entry"
          :class="{ 'wrong-entry': wrong }"
          :aria-describedby="described"
          autocomplete="off"
          spellcheck="false"
          @keydown.enter.prevent="reader.use(0)"
        />
      </Field>
      <ResistorDrawing
        class="drawing"
        :bands="bands"
        :family="part.family"
        :print="text"
        :chosen="chosen"
        :under="first?.bands?.join() === bands.join() ? first.band_words : []"
        large
        @choose="reader.choose"
      />
      <div class="swatches" role="group" :aria-label="words.read.colours">
        <button
          v-for="c in colours"
          :key="c"
          :class="[`c-${c}`, { on: chosen !== null && bands[chosen] === c }]"
          :aria-label="c"
          @click="reader.paint(c)"
        >
          <span>{{ c }}</span>
        </button>
        <button class="away" :disabled="chosen === null" @click="reader.takeAway">
          <span>{{ words.read.noBand }}</span>
        </button>
      </div>
      <p class="note">
        {{ chosen === null ? words.read.colours : `${words.read.band} ${chosen + 1}` }}
        <template v-if="bands.length < 6">
          · <button class="link" @click="reader.choose(bands.length)">{{ words.read.addBand }}</button>
        </template>
      </p>
      <template v-if="answer?.length">
        <ul class="says" :aria-label="words.read.says">
          <li v-for="(m, i) in answer" :key="i" :class="{ first: i === 0 }">
            <div>
              <b class="num">{{ m.shown.text }}</b>
              <span class="tolerance num">{{ m.tolerance_text ?? '' }}</span>
              <span v-if="m.temperature" class="note">{{ m.temperature }}</span>
              <p class="note">{{ m.because.join(' · ') }}</p>
              <div class="bar" aria-hidden="true">
                <svg viewBox="0 0 100 2" preserveAspectRatio="none">
                  <rect width="100" height="2" class="all" />
                  <rect :width="m.likelihood * 100" height="2" class="share" />
                </svg>
              </div>
            </div>
            <div class="side">
              <span class="num">{{ percent(m.likelihood) }}</span>
              <button v-if="i > 0" class="link" @click="reader.use(i)">{{ words.read.use }}</button>
            </div>
          </li>
        </ul>
        <p v-if="first" class="note">
          <template v-if="first.letters">
            {{ words.read.alsoLetters }} <b class="num">{{ first.letters }}</b> ·
          </template>
          {{ first.source }}
        </p>
      </template>
      <PartDetails :part="part" />
    </div>
    <div class="foot">
      <ElButton type="primary" :disabled="!answer?.length" @click="reader.use(0)">
        {{ dirty ? words.read.use : words.read.used }} <kbd>Enter</kbd>
      </ElButton>
      <span v-if="dirty && answer?.length" class="note">{{ words.read.unsaved }}</span>
    </div>
  </div>
</template>

<style scoped>
.title {
  margin-bottom: 8px;
}
.drawing {
  margin: 10px auto 8px;
  max-width: 340px;
}
.swatches {
  display: grid;
  grid-template-columns: repeat(7, 1fr);
  gap: 6px;
}
.swatches button {
  min-height: 40px;
  border-radius: 7px;
  background: var(--band);
  color: var(--on-band);
  border: 1px solid #0006;
  font-size: 12px;
  font-weight: 550;
  text-align: center;
}
.swatches button.on {
  outline: 3px solid var(--lamp);
  outline-offset: 1px;
}
.swatches .away {
  background: none;
  color: var(--muted);
  border: 1px dashed var(--edge-strong);
}
.swatches .away:disabled {
  opacity: 0.6;
  cursor: default;
}
.link {
  color: var(--lamp);
  text-decoration: underline;
  min-height: 28px;
}
.says {
  margin: 8px 0 4px;
}
.says li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 12px;
  padding: 8px 0;
  border-top: 1px solid var(--edge);
}
.says b {
  font-size: 20px;
  font-weight: 600;
}
.says .first b {
  font-size: 36px;
  font-weight: 500;
  color: var(--numeral);
  line-height: 1.1;
}
.tolerance {
  margin-left: 8px;
  color: var(--muted);
}
.side {
  display: grid;
  justify-items: end;
  align-content: start;
  color: var(--muted);
}
.bar {
  height: 6px;
  margin-top: 5px;
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
.share {
  fill: var(--lamp);
}
</style>
