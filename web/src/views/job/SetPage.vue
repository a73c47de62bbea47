<script setup lang="ts">
import type { Ticket } from '../../api/client'
import CautionList from '../../components/CautionList.vue'
import Field from '../../components/Field.vue'
import { said } from '../../words/dialect'
import UndoLast from '../bench/UndoLast.vue'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import { useSetForm } from './useSetForm'

/** What is known of a set's supply: asked once, and used wherever a part, a sheet or a caution needs it. */
const props = defineProps<{ ticket: Ticket }>()
const bench = useBench()
const w = words.job.set
const { form, busy, wrong, railWrong, heaterWrong, elsewhere, written, addRail, addHeater, save } =
  useSetForm(bench, props.ticket)
const mains = props.ticket.class.mains
/** The line's facts first, the rectifier's under its own heading. */
const LINE = ['line', 'frequency']
const line = props.ticket.set.facts.filter((f) => mains && LINE.includes(f.fact))
/** What a valve's type says beside its limit is shown where somebody said it. */
const BY_TYPE = ['rectifier_peak', 'rectifier_plates']
const rectifier = props.ticket.set.facts.filter(
  (f) => !LINE.includes(f.fact) && (f.text || !BY_TYPE.includes(f.fact)),
)
</script>

<template>
  <div class="desk-page page">
    <form class="desk" @submit.prevent="save">
      <UndoLast :part="null" />
      <p class="note">{{ w.why }}</p>
      <h3>{{ mains ? w.mains : w.battery }}</h3>
      <div class="three">
        <Field
          v-for="f in line"
          :key="f.fact"
          v-slot="{ id }"
          :label="f.label"
          :hint="f.meaning"
          :wrong="wrong(`set.facts.${f.fact}`)"
        >
          <ElInput :id="id" v-model="form.facts[f.fact]" autocomplete="off" />
        </Field>
        <div class="field">
          <span class="label">{{ words.job.intake.line }}</span>
          <b class="num given">{{ ticket.intake.line?.text ?? w.atIntake }}</b>
        </div>
      </div>
      <h3>{{ w.rectifier }}</h3>
      <div class="three">
        <Field v-slot="{ id }" :label="w.circuit">
          <ElSelect
            :id="id"
            v-model="form.rectifier"
            clearable
            :placeholder="words.fit.notSaid"
            :value-on-clear="null"
          >
            <ElOption
              v-for="a in bench.workshop.value?.words.arrangements ?? []"
              :key="a"
              :value="a"
              :label="a"
            />
          </ElSelect>
        </Field>
        <Field
          v-for="f in rectifier"
          :key="f.fact"
          v-slot="{ id }"
          :label="f.label"
          :hint="f.meaning"
          :wrong="wrong(`set.facts.${f.fact}`)"
        >
          <ElInput :id="id" v-model="form.facts[f.fact]" autocomplete="off" />
        </Field>
      </div>
      <h3>{{ w.rails }}</h3>
      <div v-for="(r, i) in form.rails" :key="i" class="row rail">
        <Field v-slot="{ id }" :label="w.name" :wrong="railWrong(r, 'name')">
          <ElInput :id="id" v-model="r.name" class="text" autocomplete="off" :placeholder="w.railExample" />
        </Field>
        <Field v-slot="{ id }" :label="w.volts" :wrong="railWrong(r, 'volts')">
          <ElInput :id="id" v-model="r.volts" autocomplete="off" />
        </Field>
        <button
          type="button"
          class="out"
          :aria-label="`${w.remove} ${r.name}`"
          @click="form.rails.splice(i, 1)"
        >
          ✕
        </button>
      </div>
      <ElButton @click="addRail">{{ w.addRail }}</ElButton>
      <template v-if="ticket.class.valves">
        <h3>{{ said(w.chain) }}</h3>
        <div v-for="(h, i) in form.heaters" :key="i" class="row heater">
          <Field v-slot="{ id }" :label="w.name" :wrong="heaterWrong(h, 'name')">
            <ElInput :id="id" v-model="h.name" class="text" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="w.volts" :wrong="heaterWrong(h, 'volts')">
            <ElInput :id="id" v-model="h.volts" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="w.current" :wrong="heaterWrong(h, 'current')">
            <ElInput :id="id" v-model="h.current" autocomplete="off" />
          </Field>
          <label class="flag"><input v-model="h.lamp" type="checkbox" />{{ w.lamp }}</label>
          <button
            type="button"
            class="out"
            :aria-label="`${w.remove} ${h.name}`"
            @click="form.heaters.splice(i, 1)"
          >
            ✕
          </button>
        </div>
        <div class="three">
          <ElButton @click="addHeater">{{ w.addHeater }}</ElButton>
          <Field v-slot="{ id }" :label="w.ballast" :wrong="wrong('set.ballast')">
            <ElInput :id="id" v-model="form.ballast" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" :label="w.ballastHigh" :wrong="wrong('set.ballast_high')">
            <ElInput :id="id" v-model="form.ballast_high" autocomplete="off" />
          </Field>
          <Field v-slot="{ id }" class="barretter" :label="w.barretter" :wrong="wrong('set.barretter')">
            <ElInput :id="id" v-model="form.barretter" placeholder="0.15 A 40-90 V" autocomplete="off" />
          </Field>
        </div>
      </template>
      <p v-if="elsewhere" class="problem" role="alert">{{ elsewhere }}</p>
      <div class="stick">
        <ElButton type="primary" native-type="submit" :loading="busy">{{ w.save }}</ElButton>
        <span class="note" role="status">{{
          written ? words.job.intake.unsaved : words.job.intake.kept
        }}</span>
      </div>
    </form>
    <section class="desk" aria-live="polite">
      <h3>{{ w.follows }}</h3>
      <CautionList
        v-if="ticket.set.contradictions.length"
        :cautions="ticket.set.contradictions"
        role="alert"
      />
      <p v-else class="note">{{ w.fits }}</p>
      <p v-if="ticket.set.ripple">
        {{ w.ripple }} <b class="num">{{ ticket.set.ripple.text }}</b>
      </p>
      <p v-for="s in ticket.set.settled" :key="s.ballast" class="settled" :class="{ good: s.good }">
        <b class="num">{{ s.ballast }}</b> {{ s.text }}
      </p>
    </section>
  </div>
</template>

<style scoped>
.page {
  --columns: minmax(0, 12fr) minmax(0, 8fr);
}
form {
  display: grid;
  gap: var(--s8);
  align-content: start;
  justify-items: start;
}
h3 {
  margin: var(--s6) 0 0;
  font-size: var(--t-lead);
}
.three {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: var(--s8) var(--s12);
  width: 100%;
  align-items: start;
}
.given {
  min-height: 40px;
  display: flex;
  align-items: center;
}
.row {
  display: grid;
  gap: var(--s8);
  width: 100%;
  align-items: end;
}
.rail {
  grid-template-columns: 2fr 1fr 40px;
}
.heater {
  grid-template-columns: 2fr 1fr 1fr auto 40px;
}
.out {
  height: 40px;
  color: var(--muted);
}
.text :deep(input) {
  font-family: var(--text);
}
.stick {
  width: 100%;
}
.barretter {
  grid-column: span 2;
}
.settled {
  border-left: 3px solid var(--watch);
  padding-left: var(--s12);
  margin: var(--s8) 0;
}
.settled.good {
  border-color: var(--keep);
}
@media (max-width: 700px) {
  .three {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
