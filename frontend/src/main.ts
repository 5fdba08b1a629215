// Starts the screen: fonts, theme, router, state.
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { loadFonts } from './fonts'
import { settle } from './later'
import { router } from './router'
import './styles/velmot.css'
import './theme'

loadFonts()
const app = createApp(App)
settle(app)
app.use(createPinia()).use(router).mount('#app')
