<script setup lang="ts">
import { ref, watch } from 'vue'

import { ProblemError } from '@/api/client'
import { say } from './notices'
import { changePassword } from './session'

const open = defineModel<boolean>({ required: true })
const old = ref('')
const fresh = ref('')
const wrong = ref('')
watch(open, () => (old.value = fresh.value = wrong.value = ''))

async function submit(): Promise<void> {
  try {
    await changePassword(old.value, fresh.value)
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    wrong.value = error.message
    return
  }
  open.value = false
  say('Your password is another one now; other browsers were signed out.')
}
</script>

<template>
  <v-dialog v-model="open" attach width="400">
    <form class="sheet" aria-labelledby="password-title" @submit.prevent="submit">
      <h2 id="password-title">Change your password</h2>
      <label>
        The one you have
        <v-text-field v-model="old" class="field" type="password" autocomplete="current-password" required />
      </label>
      <label>
        The new one, 10 characters or more
        <v-text-field v-model="fresh" class="field" type="password" autocomplete="new-password" minlength="10" required />
      </label>
      <p v-if="wrong" role="alert">{{ wrong }}</p>
      <div><v-btn class="strong" type="submit">Change it</v-btn></div>
    </form>
  </v-dialog>
</template>

<style scoped>
.sheet {
  display: grid;
  gap: 12px;
  padding: 20px 24px;
}
label {
  display: grid;
  gap: 3px;
}
</style>
