<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { ref, watch } from 'vue'

import { ProblemError, type ColorView, type KitView } from '@/api/client'
import { askPreview } from '@/api/composing'
import { complain } from '@/frame/notices'

/** Another base for a color, with what would follow before it is done. */
const props = defineProps<{ kit: KitView; color: ColorView; tried: string | undefined }>()
const emit = defineEmits<{ replace: [code: string] }>()

type Preview = Awaited<ReturnType<typeof askPreview>>
const code = ref('')
const settled = refDebounced(code, 200)
const preview = ref<Preview>()
const problem = ref('')

watch(() => props.color.hex, (hex) => (code.value = hex), { immediate: true })
watch(() => props.tried, (tried) => tried && (code.value = tried))
watch(code, () => {
  problem.value = ''
  preview.value = undefined
})

watch(settled, async (asked) => {
  if (!asked.trim() || asked === props.color.hex) return
  try {
    const found = await askPreview(props.kit.id, props.color.key, asked)
    if (asked === code.value && found.before.length) preview.value = found
  } catch (error) {
    if (error instanceof ProblemError && error.status === 422) {
      if (asked === code.value) problem.value = error.message
    } else complain(error)
  }
})
</script>

<template>
  <form class="base" @submit.prevent="code.trim() && code !== color.hex && emit('replace', code)">
    <span class="muted small">Base, any color code</span>
    <v-text-field v-model="code" aria-label="Base, any color code" spellcheck="false" maxlength="200" :error-messages="problem" />
    <div class="line">
      <v-btn type="submit" :disabled="code === color.hex || !code.trim()">Replace base</v-btn>
      <v-btn v-if="code !== color.hex" @click="code = color.hex">Leave it</v-btn>
    </div>
    <section v-if="preview" class="preview" aria-label="What would follow" role="status">
      <div v-for="(after, at) in preview.after" :key="after.key" class="pair">
        <small>{{ after.name }}{{ at ? ', tinted from it' : '' }}</small>
        <span v-for="[side, shown] in [['before', preview.before[at]!], ['after', after]] as const" :key="side" class="ramp">
          <i v-for="step in shown.steps" :key="step.step" :style="{ background: step.hex }" :class="{ at: step.base }" />
        </span>
      </div>
      <p>
        Before above, after below; difference {{ preview.difference }}.
        <template v-if="preview.pairs_gained.length">{{ preview.pairs_gained.length }} pairs start to read: {{ preview.pairs_gained.slice(0, 3).join('; ') }}.</template>
        <template v-if="preview.pairs_lost.length">{{ preview.pairs_lost.length }} pairs no longer read: {{ preview.pairs_lost.slice(0, 3).join('; ') }}.</template>
        <template v-if="preview.files">{{ preview.files }} files of the sets follow.</template>
      </p>
    </section>
    <p v-else class="muted small">Everything made with this color follows: its ramp, its pairs, every set.</p>
  </form>
</template>

<style scoped>
.base {
  display: grid;
  gap: 6px;
}
.line {
  display: flex;
  gap: 6px;
}
.preview p {
  font-size: 12px;
}
.preview {
  display: grid;
  gap: 6px;
}
.pair {
  display: grid;
  gap: 1px;
}
.ramp {
  display: grid;
  grid-template-columns: repeat(11, 1fr);
  height: 16px;
}
.at {
  border: 2px solid var(--panel);
  outline: 1px solid var(--ink);
}
</style>
