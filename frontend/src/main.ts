import { VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'
import App from '@/app/App.vue'
import { router } from '@/app/router'
import { keepPage } from '@/api/offline'
import { applyTheme } from '@/app/theme'
import '@/app/style.css'

applyTheme()
keepPage()
createApp(App)
  .use(router)
  .use(VueQueryPlugin, {
    queryClientConfig: {
      defaultOptions: {
        queries: { retry: false, staleTime: 5_000, refetchOnWindowFocus: true, networkMode: 'always' },
      },
    },
  })
  .mount('#app')
