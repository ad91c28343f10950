// The stand-in rig's page: lamps drawn from what has arrived on the wire, and how it arrives. It speaks to the stand-in
// alone.
import '@fontsource-variable/atkinson-hyperlegible-next'
import '@fontsource-variable/jetbrains-mono'
import './desk.css'
import { createApp } from 'vue'
import RigPage from './RigPage.vue'
import { installTokens } from './tokens'

installTokens()
createApp(RigPage).mount('#app')
