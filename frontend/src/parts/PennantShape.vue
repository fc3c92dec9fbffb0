<script setup lang="ts">
import type { Role } from '@/api/client'
import { shapeOf } from './roles'

withDefaults(defineProps<{ role: Role; hex?: string; width?: number }>(), { width: 56 })
</script>

<template>
  <svg :width="width" :height="(width * 36) / 56" viewBox="0 0 56 36" aria-hidden="true">
    <path :d="shapeOf(role).path" :fill="hex ?? 'none'" stroke="currentColor" :stroke-width="hex ? 0.8 : 2" />
  </svg>
</template>
