<script setup lang="ts">
import { onBeforeUnmount, onMounted, useId, useTemplateRef } from 'vue'

/**
 * A sheet over the bench, on the browser's own dialog: while it is open the keys belong to it, and in
 * the moment in which it closes they belong to the bench again.
 */
const props = defineProps<{
  title: string
  /** Something has been typed into it: neither Escape nor a click beside it throws that away. */
  written?: boolean
}>()
const emit = defineEmits<{ close: [] }>()
const sheet = useTemplateRef<HTMLDialogElement>('sheet')
const id = useId()

onMounted(() => sheet.value?.showModal())
onBeforeUnmount(() => sheet.value?.close())

function beside() {
  if (!props.written) emit('close')
}
</script>

<template>
  <dialog
    ref="sheet"
    :aria-labelledby="id"
    :closedby="written ? 'none' : 'closerequest'"
    @cancel.prevent="beside"
    @click.self="beside"
  >
    <div class="inner">
      <header>
        <h2 :id="id">{{ title }}</h2>
        <button class="shut" aria-label="close" @click="emit('close')">✕</button>
      </header>
      <slot />
    </div>
  </dialog>
</template>

<style scoped>
dialog {
  width: 560px;
  max-width: calc(100vw - 24px);
  padding: 0;
  margin: auto;
  overflow: visible;
  border: 1px solid var(--edge-strong);
  border-radius: 12px;
  background: var(--panel-low);
  color: var(--light);
  box-shadow: 0 14px 60px #000a;
}
dialog::backdrop {
  background: #0009;
}
.inner {
  padding: var(--s16) 24px var(--s20);
}
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin-bottom: var(--s14);
}
h2 {
  font: 600 var(--t-large) var(--title);
}
.shut {
  width: 44px;
  height: 44px;
  margin: -8px -14px -8px 0;
  text-align: center;
  color: var(--muted);
  border-radius: 8px;
}
</style>
