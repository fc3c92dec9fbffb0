<script setup lang="ts">
import type { AdditionView, KitView, SubjectView } from '@/api/client'
import { useComposing } from '@/api/composing'
import { useDiagnosis, useProving } from '@/api/proving'
import { complain, say } from '@/frame/notices'
import { useMe } from '@/frame/session'
import SwatchBox from '@/parts/SwatchBox.vue'

const props = defineProps<{ kit: KitView; subjects: SubjectView[] }>()
const { data: found } = useDiagnosis(() => props.kit)
const { tint } = useComposing(() => props.kit.id)
const { steps } = useProving(() => props.kit.id)
const { mayChange } = useMe()

async function take(addition: AdditionView): Promise<void> {
  if (addition.shade) {
    await tint.mutateAsync({ of: addition.token.split('.')[0]!, shades: [addition.shade], strength: 50 })
  } else {
    const on = props.subjects.filter((subject) => subject.step !== null).map((subject) => subject.token)
    await steps.mutateAsync([...on, addition.token])
  }
  say(`${addition.name} is in: ${addition.gained} readable pairs more`)
}
</script>

<template>
  <aside v-if="found" class="scrolls" aria-labelledby="diagnosis-title">
    <h2 id="diagnosis-title">Diagnosis</h2>
    <p>{{ found.summary }}</p>
    <p class="muted">{{ found.approved }} approved, {{ found.declined }} declined. Choose a pair to decide on it.</p>
    <ul v-if="found.reopened.length" class="findings">
      <li v-for="remark in found.reopened" :key="remark.text"><strong>Open again.</strong> {{ remark.text }}</li>
    </ul>
    <ul class="findings">
      <li v-for="remark in found.findings" :key="remark.text">{{ remark.text }}</li>
    </ul>
    <template v-if="found.additions.length">
      <h2>What would widen it</h2>
      <ul class="additions">
        <li v-for="one in found.additions" :key="one.token + (one.shade ?? '')">
          <SwatchBox :css="one.hex" :size="30" />
          <span class="words">
            <strong>{{ one.name }}</strong>
            <span class="small">
              {{ one.gained }} {{ one.gained === 1 ? 'pair' : 'pairs' }} more<template v-if="one.helped.length"
                >; a partner for {{ one.helped.join(', ') }}</template
              >
            </span>
          </span>
          <v-btn v-if="mayChange" :aria-label="`Add ${one.name}`" @click="take(one).catch(complain)">Add</v-btn>
        </li>
      </ul>
    </template>
  </aside>
</template>

<style scoped>
aside {
  display: grid;
  gap: 8px;
  align-content: start;
  width: 320px;
  padding: 14px 16px;
  border-left: 1px solid var(--rule);
  background: var(--panel);
}
.findings {
  display: grid;
  gap: 5px;
}
.findings li {
  padding-left: 10px;
  border-left: 3px solid var(--rule);
}
.additions {
  display: grid;
  gap: 7px;
}
.additions li {
  display: flex;
  gap: 9px;
  align-items: center;
}
.words {
  display: grid;
  flex: 1;
  line-height: 1.25;
}
</style>
