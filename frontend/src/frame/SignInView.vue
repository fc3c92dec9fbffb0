<script setup lang="ts">
import { onMounted, ref } from 'vue'

import { ProblemError } from '@/api/client'
import { signIn } from './session'

const email = ref('')
const password = ref('')
const wrong = ref('')
const waiting = ref(false)
/** Focused at once: what does so when it is first seen takes the caret from a password that is being typed. */
const address = ref<{ focus: () => void }>()
onMounted(() => address.value?.focus())

async function submit(): Promise<void> {
  wrong.value = ''
  waiting.value = true
  try {
    await signIn(email.value, password.value)
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    wrong.value = error.message
    password.value = ''
  } finally {
    waiting.value = false
  }
}
</script>

<template>
  <main class="door">
    <form @submit.prevent="submit">
      <h1>Pavese</h1>
      <p class="muted">Sign in to the color kit of your company.</p>
      <label>
        <span>E-mail address</span>
        <v-text-field
          ref="address"
          v-model="email"
          class="field"
          type="email"
          name="email"
          autocomplete="username"
          required
        />
      </label>
      <label>
        <span>Password</span>
        <v-text-field
          v-model="password"
          class="field"
          type="password"
          name="password"
          autocomplete="current-password"
          required
        />
      </label>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <v-btn class="strong" type="submit" :disabled="waiting">Sign in</v-btn>
      <p class="muted small">No account yet? A coordinator lets people in, under “people”.</p>
    </form>
  </main>
</template>

<style scoped>
.door {
  display: grid;
  place-items: center;
  height: 100vh;
  height: 100dvh;
}
form {
  display: grid;
  gap: 12px;
  width: 360px;
  padding: 28px 32px;
  border: 1px solid var(--rule);
  border-left: 4px solid var(--ink);
  background: var(--panel);
}
label {
  display: grid;
  gap: 3px;
}
.wrong {
  font-weight: 600;
}
</style>
