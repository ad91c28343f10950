// The page of an output: its address stands behind /output/.
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import OutputPage from './OutputPage.vue'
import { connect } from './live/live'

createApp(OutputPage).use(createPinia()).mount('#app')
connect(location.pathname.split('/')[2] || 'main')
