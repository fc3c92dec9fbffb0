import '@fontsource-variable/commissioner'
import '@fontsource-variable/source-serif-4'
import '@fontsource-variable/spline-sans-mono'
import 'vuetify/styles'
import '@/styles/base.scss'
import '@/styles/controls.scss'

import { VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'

import App from '@/App.vue'
import { queryClient } from '@/api/client'
import { router } from '@/router'
import { vHint } from '@/parts/hint'
import { vuetify } from '@/vuetify'

createApp(App).use(router).use(vuetify).directive('hint', vHint).use(VueQueryPlugin, { queryClient }).mount('#app')
