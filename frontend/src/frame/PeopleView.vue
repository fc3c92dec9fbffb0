<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { reactive } from 'vue'

import { client, queryClient, taken, type Person, type AccessRole } from '@/api/client'
import type { Option } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { complain, say } from './notices'

const KEY = ['people']
const { data: people, error, refetch } = useQuery({ queryKey: KEY, queryFn: () => taken(client.GET('/api/people')) })

const ROLES: Option<AccessRole>[] = [
  { value: 'coordinator', title: 'coordinator', words: 'may do everything' },
  { value: 'reviewer', title: 'reviewer', words: 'decides on pairs, comments' },
  { value: 'reader', title: 'reader', words: 'looks, and takes what is handed over' },
]
const blank = () => ({ email: '', name: '', role: 'reviewer' as AccessRole, password: '' })
const fresh = reactive(blank())

async function add(): Promise<void> {
  const made = await taken(client.POST('/api/people', { body: { ...fresh } }))
  Object.assign(fresh, blank())
  await queryClient.invalidateQueries({ queryKey: KEY })
  say(`${made.name} may sign in.`)
}

/** Whose password is being set anew, and to what. */
const reset = reactive({ id: '', password: '' })
async function setPassword(person: Person): Promise<void> {
  await change(person, { password: reset.password })
  Object.assign(reset, { id: '', password: '' })
  say(`${person.name} signs in with the new password from now on.`)
}

async function change(person: Person, body: { role?: AccessRole; active?: boolean; password?: string }): Promise<void> {
  try {
    await taken(client.PATCH('/api/people/{user_id}', { params: { path: { user_id: person.id } }, body }))
  } finally {
    await queryClient.invalidateQueries({ queryKey: KEY })
  }
}
</script>

<template>
  <div class="people scrolls">
    <h1>People</h1>
    <ProblemNote v-if="error" :error="error" @again="refetch()" />
    <table v-else class="listing">
      <thead>
        <tr>
          <th scope="col">name</th>
          <th scope="col">e-mail address</th>
          <th scope="col">role</th>
          <th scope="col">sign-in</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="person in people" :key="person.id" :class="{ muted: !person.active }">
          <th scope="row">{{ person.name }}</th>
          <td>{{ person.email }}</td>
          <td>
            <PickOne
              :label="`Role of ${person.name}`"
              :model-value="person.role"
              :options="ROLES"
              @update:model-value="(role) => change(person, { role }).catch(complain)"
            />
          </td>
          <td>
            {{ person.active ? 'may sign in' : 'may not sign in' }}
            <button type="button" class="link" @click="change(person, { active: !person.active }).catch(complain)">
              {{ person.active ? 'put out' : 'let in again' }}
            </button>
            <button v-if="reset.id !== person.id" type="button" class="link" @click="reset.id = person.id">set a password</button>
            <form v-else class="reset" @submit.prevent="setPassword(person).catch(complain)">
              <v-text-field v-model="reset.password" class="field" type="password" minlength="10" required autocomplete="new-password" :aria-label="`New password of ${person.name}`" />
              <v-btn type="submit">Set</v-btn>
            </form>
          </td>
        </tr>
      </tbody>
    </table>
    <form @submit.prevent="add().catch(complain)">
      <h2>Let somebody in</h2>
      <label><span>Name</span><v-text-field v-model="fresh.name" class="field" required maxlength="80" /></label>
      <label><span>E-mail address</span><v-text-field v-model="fresh.email" class="field" type="email" required /></label>
      <label>
        <span>First password, 10 characters or more</span>
        <v-text-field v-model="fresh.password" class="field" type="password" minlength="10" required autocomplete="new-password" />
      </label>
      <div class="labelled">
        <span>Role</span>
        <PickOne v-model="fresh.role" label="Role" :options="ROLES" />
      </div>
      <v-btn class="strong" type="submit">Let in</v-btn>
    </form>
  </div>
</template>

<style scoped>
.people {
  flex: 1;
  display: grid;
  gap: 14px;
  align-content: start;
  padding: 14px 16px;
}
.reset {
  display: inline-flex;
  gap: 6px;
}
.people > form {
  display: grid;
  gap: 10px;
  justify-items: start;
  width: 420px;
  padding: 16px 20px;
  border: 1px solid var(--rule);
  background: var(--panel);
}
.link {
  margin-left: 10px;
}
label,
.labelled {
  display: grid;
  gap: 3px;
  width: 100%;
}
</style>
