import '@fontsource-variable/bricolage-grotesque'
import '@fontsource-variable/source-sans-3'
import './shared/tokens.css'
import './shared/base.css'
import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'
import { api, Trouble } from './api/client'
import { follow } from './api/live'
import App from './app/App.vue'
import { router } from './app/router'
import { serverTime } from './shared/serverTime'

const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5000,
      refetchInterval: 30000,
      // A refusal stays one; a server that is away may come back.
      retry: (count, error) => count < 2 && !(error instanceof Trouble && error.status >= 400 && error.status < 500),
    },
  },
})

api.use(serverTime)

void follow(() => void queryClient.invalidateQueries())

createApp(App).use(router).use(VueQueryPlugin, { queryClient }).mount('#app')
