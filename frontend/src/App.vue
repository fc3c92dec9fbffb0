<script setup lang="ts">
import { useRoute } from 'vue-router'

import AppFrame from '@/frame/AppFrame.vue'
import HintLayer from '@/frame/HintLayer.vue'
import { useMe } from '@/frame/session'
import SignInView from '@/frame/SignInView.vue'
import ProblemNote from '@/parts/ProblemNote.vue'

const route = useRoute()
const { me, error } = useMe()
const reload = () => location.reload()
</script>

<template>
  <v-app>
    <!-- A page behind a link asks for no session. -->
    <router-view v-if="route.meta.open" />
    <ProblemNote v-else-if="error" :error="error" @again="reload" />
    <AppFrame v-else-if="me" />
    <SignInView v-else-if="me === null" />
    <HintLayer />
  </v-app>
</template>
