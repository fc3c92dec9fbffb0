<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import { useKit } from '@/api/kits'
import HandOverTabs from './HandOverTabs.vue'
import KitHandOver from './KitHandOver.vue'

const route = useRoute()
const kitId = computed(() => route.params.kitId as string)
const { data: kit } = useKit(kitId)
</script>

<template>
  <h1 class="unseen">Hand over the kit</h1>
  <HandOverTabs :kit-id="kitId" view="kit" />
  <KitHandOver v-if="kit" :kit="kit" />
</template>
