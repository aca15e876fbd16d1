import '@fontsource-variable/bricolage-grotesque'
import '@fontsource-variable/source-sans-3'
import './shared/base.css'
import './shared/theme/tokens.css'
import './shared/theme/fields.css'
import './shared/theme/parts.css'
import './shared/theme/elements.css'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'
import { RouterView } from 'vue-router'
import { shuts } from './api/door'
import { acting } from './shared/acting'
import { api } from './api/client'
import { follow } from './api/live'
import { queryClient } from './api/queries'
import App from './app/App.vue'
import { router } from './app/router'
import { serverTime } from './shared/serverTime'
import { followTips } from './shared/tips'

api.use(serverTime, acting, shuts)

// What a customer is shown stands alone: nothing of the studio is asked for around it.
const alone = /^\/(proof|quote)\//.test(location.pathname)
if (!alone) void follow()
followTips()

// The fonts were asked for before this script; a page is drawn without one that is not
// there within a second, and stays so.
const fonts = ['Source Sans 3 Variable', 'Bricolage Grotesque Variable'].map((name) =>
  document.fonts.load(`1em "${name}"`),
)
const longEnough = new Promise((over) => setTimeout(over, 1000))

// After the script is read the browser gets a word in, before the page is drawn with it.
setTimeout(async () => {
  await Promise.race([Promise.allSettled(fonts), longEnough])
  const app = createApp(alone ? RouterView : App)
    .use(router)
    .use(VueQueryPlugin, { queryClient })
  setTimeout(() => app.mount('#app'))
})
