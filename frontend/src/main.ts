// Starts the screen: fonts, theme, router, state.
import '@fontsource-variable/atkinson-hyperlegible-next'
import '@fontsource-variable/atkinson-hyperlegible-mono'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { installElements } from './elements'
import { router } from './router'
import './styles/velmot.css'
import './theme'

const app = createApp(App)
installElements(app)
app.use(createPinia()).use(router).mount('#app')
