<script setup lang="ts">
import { useMediaQuery, useStorage } from '@vueuse/core'
import { computed, nextTick, ref, watch, watchEffect } from 'vue'
import OwlMark from '../../drawing/OwlMark.vue'
import { words } from '../../words/en'
import AccountSheet from '../people/AccountSheet.vue'
import { useSession } from '../people/useSession'
import { useBench } from './useBench'

const bench = useBench()
const emit = defineEmits<{ add: []; keys: []; edit: []; find: [] }>()
/** Who is signed in, as long as people sign in here. */
const { person } = useSession()
const account = ref(false)
const initials = computed(() =>
  (person.value?.name ?? '')
    .split(/\s+/)
    .map((word) => word[0])
    .slice(0, 2)
    .join(''),
)
/** The last tickets that lay here, the newest first; so many of them stand as tags, the others are in the pile. */
const recent = useStorage<string[]>('owl-recent', [])
const wide = useMediaQuery('(min-width: 1500px)')
watch(
  () => bench.ticketId.value,
  (id) => {
    if (id) recent.value = [id, ...recent.value.filter((r) => r !== id)].slice(0, 8)
  },
  { immediate: true },
)
const atHand = computed(() => {
  const all = bench.onShelf.value
  const most = wide.value ? 5 : 3
  if (all.length <= most + 1) return all
  const byHand = [...recent.value, ...all.map((t) => t.id)].filter((id) => all.some((t) => t.id === id))
  const chosen = [...new Set(byHand)].slice(0, most)
  return all.filter((t) => chosen.includes(t.id))
})
const inThePile = computed(() => bench.onShelf.value.length - atHand.value.length)
/** The open ticket's tag is in sight, however many there are. */
const tags = ref<HTMLElement>()
watch(
  [() => bench.ticketId.value, () => bench.shelf.value],
  () =>
    void nextTick(() =>
      tags.value?.querySelector('.on')?.scrollIntoView({ inline: 'nearest', block: 'nearest' }),
    ),
  { immediate: true },
)
const light = useStorage<'night' | 'day'>('owl-light', 'night')
watchEffect(() => document.documentElement.classList.toggle('day', light.value === 'day'))
</script>

<template>
  <header>
    <div class="mark">
      <OwlMark />
      <div>
        <h1>{{ words.name }}</h1>
        <span v-if="bench.workshop.value">{{ bench.workshop.value.name }}</span>
      </div>
    </div>
    <nav ref="tags" class="tags" :aria-label="words.shelf.label">
      <button
        v-for="t in atHand"
        :key="t.id"
        class="tag"
        :class="{ on: t.id === bench.ticketId.value }"
        :aria-current="t.id === bench.ticketId.value ? 'page' : undefined"
        @click="t.id === bench.ticketId.value && !bench.tool.value ? emit('edit') : bench.openTicket(t.id)"
      >
        <b>{{ t.name }}</b>
        <span>{{ t.class }} · {{ t.left }}</span>
      </button>
      <button v-if="inThePile > 0" class="tag pile" @click="emit('find')">
        <b>{{ words.shelf.pile(inThePile) }}</b>
        <span>{{ words.shelf.waits }}</span>
      </button>
      <span v-if="bench.shelf.value && bench.onShelf.value.length === 0" class="none">{{
        words.shelf.empty
      }}</span>
    </nav>
    <div class="tools">
      <button class="find" :title="words.find.title" @click="emit('find')">
        {{ words.find.title }} <kbd>Ctrl K</kbd>
      </button>
      <button class="add" :aria-label="words.shelf.add" :title="words.shelf.add" @click="emit('add')">
        + <kbd>N</kbd>
      </button>
      <button
        class="sign"
        :aria-label="light === 'day' ? words.shelf.night : words.shelf.day"
        :title="light === 'day' ? words.shelf.night : words.shelf.day"
        @click="light = light === 'day' ? 'night' : 'day'"
      >
        {{ light === 'day' ? '☾' : '☀' }}
      </button>
      <button
        v-if="person"
        class="sign who"
        :aria-label="`${words.people.account}: ${person.name}`"
        :title="person.name"
        @click="account = true"
      >
        {{ initials }}
      </button>
      <button class="sign" :aria-label="words.shelf.keys" :title="words.shelf.keys" @click="emit('keys')">
        <kbd>?</kbd>
      </button>
    </div>
    <AccountSheet v-if="account" @close="account = false" />
  </header>
</template>

<style scoped>
header {
  background: linear-gradient(var(--wood), var(--wood-low));
  border-bottom: 3px solid var(--wood-edge);
  display: flex;
  align-items: flex-end;
  gap: var(--s10);
  padding: 0 var(--s20);
  min-width: 0;
  color: var(--on-wood);
}
.mark {
  align-self: center;
  display: flex;
  gap: var(--s10);
  align-items: center;
  margin-right: var(--s10);
  flex: none;
}
.mark h1 {
  margin: 0;
  font: 600 var(--t-head)/1.2 var(--title);
  display: block;
  color: #f1e8d4;
}
.mark span {
  font-size: var(--t-fine);
  color: var(--on-wood);
}
.tags {
  display: flex;
  align-items: flex-end;
  gap: var(--s10);
  min-width: 0;
  overflow-x: auto;
  scrollbar-width: none;
  padding: var(--s8) var(--s4) 0;
  align-self: stretch;
}
.tag {
  background: var(--paper-dim);
  color: var(--ink);
  border-radius: 5px 5px 0 0;
  padding: var(--s6) var(--s14) var(--s6) 30px;
  position: relative;
  min-width: 150px;
  height: 50px;
  flex: none;
}
.tag::before {
  content: '';
  position: absolute;
  left: 11px;
  top: 19px;
  width: 9px;
  height: 9px;
  border-radius: 50%;
  background: var(--wood-low);
  box-shadow: 0 0 0 2px #c6b68f;
}
.tag.on {
  background: var(--paper);
  height: 58px;
  box-shadow: 0 -2px 22px var(--lamp-glow);
}
.tag b,
.tag span {
  display: block;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.tag b {
  font: 600 var(--t-body)/1.2 var(--title);
}
.tag span {
  font-size: var(--t-fine);
  color: var(--ink-soft);
}
.none {
  align-self: center;
  color: var(--on-wood);
}
.tools {
  margin-left: auto;
  align-self: center;
  display: flex;
  gap: var(--s4);
  flex: none;
}
.tools button {
  min-height: 40px;
  padding: var(--s8) var(--s10);
  border-radius: 6px;
  font-size: var(--t-small);
  white-space: nowrap;
}
.tools .add {
  margin-left: var(--s4);
  border: 1px dashed #a58a5e;
  padding: var(--s8) var(--s12);
}
.tools button:hover {
  background: #fff1;
}
/* those that do not lie at hand, one under the other */
.pile {
  padding-left: var(--s14);
  min-width: 0;
  margin-right: var(--s8);
  box-shadow:
    3px -3px 0 var(--ink-soft),
    4px -4px 0 var(--paper-dim);
}
.pile::before {
  content: none;
}
.tools .find {
  display: flex;
  gap: var(--s20);
  align-items: center;
  min-width: 200px;
  justify-content: space-between;
  background: var(--well);
  color: var(--well-soft);
  border: 1px solid var(--well-edge);
}
/* the tickets need the room: the mark alone says whose bench it is */
@media (max-width: 1400px) {
  .mark h1 {
    position: absolute;
    clip-path: inset(50%);
  }
  .tag {
    max-width: 230px;
  }
  .mark {
    margin-right: 0;
  }
  .mark span {
    display: none;
  }
}
@media (max-width: 1100px) {
  header {
    flex-wrap: wrap;
    padding: var(--s8) var(--s12) 0;
  }
  .tags {
    order: 3;
    flex-basis: 100%;
  }
}
@media (max-width: 700px) {
  .tools {
    flex: 1 1 0;
    min-width: 0;
  }
  .tools button {
    min-height: 44px;
  }
  .tools .find {
    flex: 1 1 0;
    min-width: 0;
  }
  .tools .find kbd {
    display: none;
  }
}
</style>
