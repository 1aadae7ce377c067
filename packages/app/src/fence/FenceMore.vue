<script setup lang="ts">
import type { Fence } from '@fennip/core/fence';
import { useFencing } from '../actions/useFencing.ts';
import { say } from '../i18n/say.ts';
import { useFenceCopies } from './useFenceCopies.ts';

/** What else can be done with a fence. */
const props = defineProps<{ fence: Fence }>();
const emit = defineEmits<{ rename: [] }>();
const { drawOn, remove, reshape } = useFencing();
const { copyTo, others, save } = useFenceCopies();

function act(command: string): void {
  if (command === 'rename') return emit('rename');
  if (command === 'remove') return remove(props.fence);
  if (command === 'save') return void save(props.fence);
  if (command === 'copy') return void copyTo(props.fence, others.value);
  drawOn(props.fence);
  if (command === 'invert') void reshape({ how: 'invert' });
  if (command === 'fill') void reshape({ how: 'fill holes' });
}
</script>

<template>
  <el-dropdown :persistent="false" trigger="click" @command="act">
    <el-button size="small" text :aria-label="say('fence.more', { name: fence.name })">{{
      say('fence.more.sign')
    }}</el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item command="rename">{{ say('fence.rename') }}</el-dropdown-item>
        <el-dropdown-item command="invert">{{ say('fence.invert') }}</el-dropdown-item>
        <el-dropdown-item command="fill">{{ say('fence.fillHoles') }}</el-dropdown-item>
        <el-dropdown-item command="copy" divided :disabled="others.length === 0">{{
          say('fence.copy', { n: others.length })
        }}</el-dropdown-item>
        <el-dropdown-item command="save">{{ say('fence.save') }}</el-dropdown-item>
        <el-dropdown-item command="remove" divided>{{ say('fence.remove') }}</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
