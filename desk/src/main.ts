import '@fontsource-variable/atkinson-hyperlegible-next'
import '@fontsource-variable/jetbrains-mono'
import 'primeicons/primeicons.css'
import './desk.css'
import { createPinia } from 'pinia'
import PrimeVue from 'primevue/config'
import ToastService from 'primevue/toastservice'
import { tooltip } from './controls/tooltip'
import { createApp } from 'vue'
import App from './App.vue'
import { connect } from './live/live'
import { installTokens, theme } from './tokens'

installTokens()
document.documentElement.classList.add('dark')
createApp(App)
  .use(createPinia())
  .use(PrimeVue, { theme: { preset: theme, options: { darkModeSelector: '.dark' } } })
  .use(ToastService)
  .directive('tooltip', tooltip)
  .mount('#app')
connect()
