<script setup lang="ts">
import type { KitView, Role, Rules } from '@/api/client'
import { useProving, useUsageRules } from '@/api/proving'
import { complain } from '@/frame/notices'
import { useMe } from '@/frame/session'
import NumberField from '@/parts/NumberField.vue'
import { ROLE_NAMES } from '@/parts/roles'
import TickBox from '@/parts/TickBox.vue'

const props = defineProps<{ kit: KitView }>()
const { data: view } = useUsageRules(() => props.kit)
const { rules: save } = useProving(() => props.kit.id)
const { mayChange } = useMe()

function put(change: Partial<Rules>): void {
  if (view.value) save.mutateAsync({ ...view.value.rules, ...change }).catch(complain)
}

function flip(field: 'body_text' | 'large_areas', role: Role): void {
  const now = view.value!.rules[field]
  put({ [field]: now.includes(role) ? now.filter((one) => one !== role) : [...now, role] })
}

const ROLE_FIELDS = [
  { field: 'body_text', label: 'Body text only in', none: 'Nothing ticked: any color' },
  { field: 'large_areas', label: 'Large areas only from', none: 'Nothing ticked: any color' },
] as const
const NUMBERS = [
  { field: 'accent_share', label: 'Accents cover at most', unit: '% of an area', min: 0, max: 100, step: 1 },
  { field: 'least_body', label: 'Body text at least', unit: ': 1', min: 4.5, max: 21, step: 0.5 },
  { field: 'least_large', label: 'Large text at least', unit: ': 1', min: 3, max: 21, step: 0.5 },
  { field: 'least_graphics', label: 'Graphics at least', unit: ': 1', min: 3, max: 21, step: 0.5 },
  { field: 'same', label: 'Ours: closer than', unit: 'CIEDE2000', min: 0.1, max: 20, step: 0.1 },
  { field: 'near', label: 'A drift of ours: closer than', unit: 'CIEDE2000', min: 0.1, max: 50, step: 0.5 },
] as const
</script>

<template>
  <div v-if="view" class="rules scrolls">
    <form @submit.prevent>
      <h2>Rules of use</h2>
      <p class="muted">They are part of the kit: handed over with it, and what files are checked against.</p>
      <fieldset v-for="entry in ROLE_FIELDS" :key="entry.field" :disabled="!mayChange">
        <legend>{{ entry.label }}</legend>
        <TickBox
          v-for="role in ROLE_NAMES"
          :key="role"
          :model-value="view.rules[entry.field].includes(role)"
          :disabled="!mayChange"
          @update:model-value="flip(entry.field, role)"
        >
          {{ role }}
        </TickBox>
        <p v-if="!view.rules[entry.field].length" class="muted small">{{ entry.none }}</p>
      </fieldset>
      <TickBox :model-value="view.rules.action_only" :disabled="!mayChange" @update:model-value="(action_only) => put({ action_only })">
        The action color for the main action only
      </TickBox>
      <div v-for="entry in NUMBERS" :key="entry.field" class="least">
        <span>{{ entry.label }}</span>
        <NumberField
          :label="entry.label"
          :model-value="view.rules[entry.field]"
          :min="entry.min"
          :max="entry.max"
          :step="entry.step"
          :precision="entry.step < 1 ? 1 : 0"
          :disabled="!mayChange"
          @update:model-value="(value) => put({ [entry.field]: value })"
        />
        <span class="muted">{{ entry.unit }}</span>
      </div>
    </form>
    <aside aria-label="The rules in words">
      <h2>In words</h2>
      <ol>
        <li v-for="rule in view.words" :key="rule">{{ rule }}</li>
      </ol>
      <p class="muted small">
        Least contrasts below those of WCAG 2.2 are not taken. Approvals that a stricter rule no longer bears are opened
        again.
      </p>
    </aside>
  </div>
</template>

<style scoped>
.rules {
  display: flex;
  gap: 32px;
  flex: 1;
  padding: 14px 16px;
}
form {
  display: grid;
  gap: 12px;
  align-content: start;
  width: 560px;
}
fieldset {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  margin: 0;
  padding: 8px 12px;
  border: 1px solid var(--rule);
}
legend {
  padding: 0 4px;
  font-weight: 600;
}
.least {
  display: grid;
  grid-template-columns: 220px 90px 1fr;
  gap: 10px;
  align-items: center;
}
aside {
  display: grid;
  gap: 10px;
  align-content: start;
  align-self: start;
  flex: 1;
  max-width: 460px;
  padding: 16px 20px;
  border-left: 4px solid var(--ink);
  background: var(--panel);
}
ol {
  display: grid;
  gap: 8px;
}
</style>
