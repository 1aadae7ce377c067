<script setup lang="ts">
import { say } from '../../i18n/say.ts';
import { KEY_HELP } from './useKeys.ts';

const isOpen = defineModel<boolean>({ required: true });
</script>

<template>
  <el-dialog v-model="isOpen" :title="say('keys')" width="560">
    <dl>
      <template v-for="[keys, what] in KEY_HELP" :key="keys">
        <dt>
          <kbd v-for="key in keys.split(' ')" :key="key">{{ key }}</kbd>
        </dt>
        <dd>{{ say(what) }}</dd>
      </template>
    </dl>
  </el-dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 7px 16px;
  margin: 0;
}
dd {
  margin: 0;
}
kbd {
  display: inline-block;
  margin-right: 4px;
  padding: 0 6px;
  border: 1px solid var(--line-strong);
  background: var(--panel);
  font: 500 13px var(--face-figures);
}
</style>
