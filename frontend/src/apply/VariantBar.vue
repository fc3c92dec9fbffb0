<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import type { KitView, SetView } from '@/api/client'
import { type Trial } from '@/api/files'
import { useKits } from '@/api/kits'
import { addVariant } from '@/api/sets'
import { complain } from '@/frame/notices'
import PickOne from '@/parts/PickOne.vue'

/** The variants of a set: the same files by another plan, mode, kit or edition, kept beside each other. */
const props = defineProps<{ kit: KitView; set: SetView }>()
const router = useRouter()
const { data: kits } = useKits()

/** The kit in which the set is seen while it is being chosen; nothing is kept of that. */
const trial = defineModel<Trial | undefined>('trial')
const asking = ref(false)
const name = ref('')
const wanted = ref('')

const choices = computed(() => [
  { value: '', title: 'this kit, as drafted' },
  ...Array.from({ length: props.kit.edition ?? 0 }, (_, at) => ({
    value: `${props.kit.id}#${at + 1}`,
    title: `this kit, edition ${at + 1}`,
  })),
  ...(kits.value ?? []).filter((one) => one.id !== props.kit.id).map((one) => ({ value: one.id, title: one.name })),
])

watch([wanted, asking], () => {
  const [kit, edition] = wanted.value.split('#')
  trial.value = asking.value && kit ? { kit, ...(edition ? { edition: Number(edition) } : {}) } : undefined
})

async function add(): Promise<void> {
  const [kit, edition] = wanted.value.split('#')
  try {
    const made = await addVariant(props.set, {
      name: name.value.trim() || `${props.set.name}, variant ${props.set.variants.length}`,
      kit_id: kit || null,
      edition: edition ? Number(edition) : null,
    })
    asking.value = false
    name.value = ''
    await router.push({ name: 'apply', params: { kitId: made.kit_id, setId: made.id } })
  } catch (problem) {
    complain(problem)
  }
}

function told(variant: SetView['variants'][number]): string {
  const kit = variant.kit_id === props.kit.id ? '' : variant.kit
  const edition = variant.edition === null ? '' : `edition ${variant.edition}`
  return [kit, edition].filter(Boolean).join(', ')
}
</script>

<template>
  <div class="variants" role="group" aria-label="Variants">
    <template v-if="set.variants.length > 1">
      <router-link
        v-for="(variant, at) in set.variants"
        :key="variant.id"
        :to="{ name: 'apply', params: { kitId: variant.kit_id, setId: variant.id } }"
        :class="{ here: variant.id === set.id }"
        :aria-current="variant.id === set.id ? 'true' : undefined"
      >
        {{ at === 0 ? 'original set' : variant.name }} <span v-if="told(variant)" class="muted">{{ told(variant) }}</span>
      </router-link>
    </template>
    <button v-if="!asking" type="button" class="link small" @click="asking = true">try another kit or plan on it…</button>
    <form v-else @submit.prevent="add">
      <v-text-field v-model="name" class="field" aria-label="Name of the variant" placeholder="name of the variant" maxlength="110" />
      <PickOne v-model="wanted" label="For which kit" :options="choices" />
      <v-btn v-hint="'Keeps it beside the set; until then nothing is kept'" type="submit" class="strong">Add variant</v-btn>
      <v-btn @click="asking = false">No</v-btn>
    </form>
  </div>
</template>

<style scoped>
.variants {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
  margin-left: auto;
}
a {
  color: inherit;
  font-size: 13px;
}
.here {
  font-weight: 700;
  text-decoration: none;
}
form {
  display: flex;
  gap: 6px;
}
.field {
  width: 190px;
}
</style>
