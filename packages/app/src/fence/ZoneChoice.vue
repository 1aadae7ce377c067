<script setup lang="ts">
import { useHand } from '../stores/hand.ts';
import { say } from '../i18n/say.ts';
import ZoneSelect from './ZoneSelect.vue';

/** The zone that what is laid down next is bounded by. */
const hand = useHand();
</script>

<template>
  <label class="bar-field">
    <span>{{ say('hand.in') }}</span>
    <ZoneSelect v-model="hand.zone" :does="say('hand.in.does')" />
  </label>
</template>
