import { createApp } from 'vue'
import 'element-plus/es/components/base/style/css'
import 'element-plus/es/components/message/style/css'
import '@fontsource-variable/commissioner/wght.css'
import '@fontsource-variable/literata/wght.css'
import '@fontsource-variable/source-code-pro/wght.css'
import './style/tokens.css'
import './style/element.css'
import './style/base.css'
import './style/desk.css'
import { isBack } from './api/client'
import App from './App.vue'
import { router } from './router'

// A part of the page that is fetched late and is not there: the server is away, or another one by now; its answer tells.
window.addEventListener('vite:preloadError', () => void isBack())

createApp(App).use(router).mount('#app')
