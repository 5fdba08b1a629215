// Starts the screen: fonts, theme, router, state.
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './frame/App.vue'
import { loadFonts } from './state/fonts'
import { settle } from './frame/later'
import { router } from './frame/router'
import './styles/velmot.css'
import './state/theme'

loadFonts()
const app = createApp(App)
settle(app)
app.use(createPinia()).use(router).mount('#app')
