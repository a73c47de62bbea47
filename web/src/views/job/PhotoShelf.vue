<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, newKey, Problem, sendFile, told, type Attachment } from '../../api/client'
import { words } from '../../words/en'
import { useBench } from '../bench/useBench'
import PhotoMarks from './PhotoMarks.vue'
import { useStage } from './useStage'

/** Photographs and sheets of the set or of a part. */
const bench = useBench()
const w = words.job.photos
const { data, ticket, problem } = useStage((id) =>
  told(api.GET('/api/tickets/{id}/attachments', { params: { path: { id } } })),
)
const part = ref('')
const busy = ref(false)
const wrong = ref<string | null>(null)
const input = ref<HTMLInputElement>()
/** The picture that is looked at, with its marks. */
const looked = ref<string | null>(null)
const picture = computed(() => data.value?.find((a) => a.id === looked.value) ?? null)

async function add(files: FileList | null) {
  const id = ticket.value
  if (!id || !files) return
  busy.value = true
  wrong.value = null
  for (const file of files) {
    const query = new URLSearchParams({ key: newKey(), name: file.name })
    if (part.value) query.set('part', part.value)
    try {
      data.value = await sendFile<Attachment[]>(`/api/tickets/${id}/attachments?${query}`, file)
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      wrong.value = `${file.name}: ${e.detail}`
    }
  }
  busy.value = false
  if (input.value) input.value.value = ''
}
async function remove(id: string) {
  try {
    data.value = await told(api.DELETE('/api/attachments/{id}', { params: { path: { id } } }))
  } catch (e) {
    if (!(e instanceof Problem)) throw e
    wrong.value = e.detail
  }
}
</script>

<template>
  <section class="photos">
    <h3>{{ w.title }}</h3>
    <p v-if="data && !data.length" class="note">{{ w.none }}</p>
    <ul v-else-if="data">
      <li v-for="a in data" :key="a.id">
        <button v-if="a.picture" class="open" :aria-label="a.name" @click="looked = a.id">
          <img :src="`/api/attachments/${a.id}?small=true`" :alt="a.name" loading="lazy" />
        </button>
        <a v-else :href="`/api/attachments/${a.id}`" target="_blank" :aria-label="a.name">
          <span class="sheet">{{ w.sheet }}</span>
        </a>
        <span class="note"
          >{{ a.part ? `${a.part} · ` : '' }}{{ a.name
          }}<template v-if="a.markers.length"> · {{ w.marks(a.markers.length) }}</template></span
        >
        <ElPopconfirm :title="w.removeAsk" width="220" @confirm="remove(a.id)">
          <template #reference
            ><button class="shut" :aria-label="`${w.remove}: ${a.name}`">✕</button></template
          >
        </ElPopconfirm>
      </li>
    </ul>
    <div class="do">
      <label class="file">
        <input
          ref="input"
          type="file"
          class="sr"
          multiple
          accept="image/jpeg,image/png,image/webp,application/pdf"
          @change="add(($event.target as HTMLInputElement).files)"
        />
        {{ busy ? w.busy : w.add }}
      </label>
      <label class="note of"
        >{{ w.part }}
        <select v-model="part">
          <option value="">–</option>
          <option v-for="p in bench.ticket.value?.parts ?? []" :key="p.id" :value="p.name">
            {{ p.name }}
          </option>
        </select>
      </label>
    </div>
    <PhotoMarks v-if="picture" :picture="picture" @close="looked = null" @marked="(now) => (data = now)" />
    <p v-if="wrong ?? (problem && !data)" class="problem" role="alert">{{ wrong ?? problem?.detail }}</p>
  </section>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(130px, 1fr));
  gap: var(--s10);
  margin: var(--s6) 0;
}
li {
  position: relative;
  display: grid;
  gap: var(--s2);
  align-content: start;
}
.open {
  padding: 0;
}
img,
.sheet {
  width: 100%;
  aspect-ratio: 4 / 3;
  object-fit: cover;
  border-radius: 6px;
  border: 1px solid var(--edge-strong);
  background: var(--well);
  display: grid;
  place-items: center;
  color: var(--well-soft);
}
li .note {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.shut {
  position: absolute;
  top: 4px;
  right: 4px;
  width: 36px;
  height: 36px;
  border-radius: 6px;
  text-align: center;
  background: #000a;
  color: #fff;
}
.do {
  display: flex;
  gap: var(--s8) var(--s16);
  align-items: center;
  flex-wrap: wrap;
  margin-top: var(--s6);
}
select {
  min-height: 40px;
  background: var(--well);
  color: var(--well-ink);
  border: 1px solid var(--edge-strong);
  border-radius: 8px;
  padding: var(--s4) var(--s8);
  font: inherit;
}
</style>
