// The page that shows every overlay over a test picture, as a streaming program would lay it.
import '@fontsource-variable/atkinson-hyperlegible-next'
import '@fontsource-variable/jetbrains-mono'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import OverlaysPage from './OverlaysPage.vue'
import { connect } from './live/live'
import { installTokens } from './tokens'
import './desk.css'

installTokens()
createApp(OverlaysPage).use(createPinia()).mount('#app')
connect()
