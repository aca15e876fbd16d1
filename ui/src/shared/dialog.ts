import { defineAsyncComponent } from 'vue'

// Dialogs come when the first of them is opened: no page has to wait for what it may never show.
export default defineAsyncComponent(() => import('./DialogBox.vue'))
