<script setup lang="ts">
import { computed, ref } from 'vue';
import HistoryList from '../history/HistoryList.vue';
import { usePicture } from '../stores/picture.ts';

/** One step back or forward, and the list of all. */
const picture = usePicture();
const nextUndo = computed(() => picture.done.at(-1)?.words);
const nextRedo = computed(() => picture.undone[0]?.words);
/** Esc closes the list before it does anything else. */
const isOpen = ref(false);
</script>

<template>
  <div class="bar-group">
    <el-tooltip
      placement="top"
      :enterable="false"
      :content="nextUndo ? `Undo: ${nextUndo} (Ctrl Z)` : 'Nothing to undo'"
    >
      <el-button size="small" :disabled="!nextUndo" @click="picture.undo()">Undo</el-button>
    </el-tooltip>
    <el-tooltip
      placement="top"
      :enterable="false"
      :content="nextRedo ? `Redo: ${nextRedo} (Ctrl Shift Z)` : 'Nothing to redo'"
    >
      <el-button size="small" :disabled="!nextRedo" @click="picture.redo()">Redo</el-button>
    </el-tooltip>
    <el-popover v-model:visible="isOpen" trigger="click" :width="280" placement="bottom-start">
      <template #reference>
        <el-button size="small" @keydown.esc.stop.prevent="isOpen = false">History</el-button>
      </template>
      <HistoryList />
    </el-popover>
  </div>
</template>
