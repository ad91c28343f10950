// The output page: the picture and nothing else. F or a double click fills the screen.
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import OutputPage from './OutputPage.vue'
import { connect } from './live/live'

createApp(OutputPage).use(createPinia()).mount('#app')
connect()
