<script setup lang="ts">
import { onMounted, onBeforeUnmount } from 'vue';
import { useJob } from '../stores/job.ts';
import { say } from '../words/say.ts';
import ContactPrint from './ContactPrint.vue';

/** The pictures of the job, unfolded over the table. */
const emit = defineEmits<{ open: [id: string]; close: [] }>();
const job = useJob();

function escape(event: KeyboardEvent): void {
  if (event.key === 'Escape') emit('close');
}
onMounted(() => addEventListener('keydown', escape));
onBeforeUnmount(() => removeEventListener('keydown', escape));
</script>

<template>
  <section class="sheet" :aria-label="say('sheet')">
    <button
      v-for="picture in job.pictures"
      :key="picture.id"
      type="button"
      :disabled="picture.state === 'failed'"
      @click="emit('open', picture.id)"
    >
      <ContactPrint :picture="picture" />
    </button>
  </section>
</template>

<style scoped>
.sheet {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  max-height: 70vh;
  padding: 16px 18px;
  overflow: auto;
  border-bottom: 1px solid var(--line-strong);
  background: var(--panel);
  box-shadow: 0 6px 14px rgb(0 0 0 / 25%);
}
button {
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
</style>
