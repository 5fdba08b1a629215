// Starts the screen: fonts, theme, router, state.
import '@fontsource-variable/atkinson-hyperlegible-next'
import '@fontsource-variable/atkinson-hyperlegible-mono'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { settle } from './later'
import { router } from './router'
import './styles/velmot.css'
import './theme'

const app = createApp(App)
settle(app)
app.use(createPinia()).use(router).mount('#app')
