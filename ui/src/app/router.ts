import { createRouter, createWebHistory } from 'vue-router'

// The sections, in the order of the top line and of the number keys.
export const sections = [
  { path: '/', name: 'Today' },
  { path: '/plan', name: 'Plan' },
  { path: '/orders', name: 'Orders' },
  { path: '/products', name: 'Products' },
  { path: '/prints', name: 'Prints' },
  { path: '/stores', name: 'Stores' },
  { path: '/notebook', name: 'Notebook' },
  { path: '/workshop', name: 'Workshop' },
] as const

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: () => import('../desk/TodayPage.vue'), meta: { title: 'Today' } },
    { path: '/plan', component: () => import('../planning/PlanPage.vue'), meta: { title: 'Plan' } },
    { path: '/orders', component: () => import('../orders/OrdersPage.vue'), meta: { title: 'Orders' } },
    { path: '/products', component: () => import('../products/ProductsPage.vue'), meta: { title: 'Products' } },
    { path: '/products/new', component: () => import('../desk/ChooserPage.vue'), meta: { title: 'New product' } },
    { path: '/products/library', component: () => import('../library/LibraryPage.vue'), meta: { title: 'Library' } },
    { path: '/products/:id(\\d+)', component: () => import('../products/ProductPage.vue'), meta: { title: 'Product' } },
    { path: '/products/prices', component: () => import('../selling/PricesPage.vue'), meta: { title: 'Prices' } },
    { path: '/prints', component: () => import('../artwork/ArtworksPage.vue'), meta: { title: 'Prints' } },
    { path: '/prints/sheets', component: () => import('../prints/SheetsPage.vue'), meta: { title: 'Sheets' } },
    { path: '/prints/design/:id(\\d+)', component: () => import('../prints/DesignPage.vue'), meta: { title: 'Print' } },
    { path: '/prints/proof/:id(\\d+)', component: () => import('../prints/ProofPage.vue'), meta: { title: 'Proof' } },
    { path: '/stores', component: () => import('../stores/StoresPage.vue'), meta: { title: 'Stores' } },
    {
      path: '/products/:id(\\d+)/costs',
      component: () => import('../selling/CostsPage.vue'),
      meta: { title: 'Costs' },
    },
    { path: '/notebook', component: () => import('../products/GuidePage.vue'), meta: { title: 'Notebook' } },
    {
      path: '/notebook/batches',
      component: () => import('../batches/PastBatches.vue'),
      meta: { title: 'Past batches' },
    },
    {
      path: '/notebook/batches/new',
      component: () => import('../batches/PastBatchPage.vue'),
      meta: { title: 'A batch made before' },
    },
    { path: '/workshop', component: () => import('../workshop/WorkshopPage.vue'), meta: { title: 'Workshop' } },
    { path: '/:rest(.*)*', component: () => import('./NothingHere.vue'), meta: { title: 'Nothing here' } },
  ],
})

// A page that was left before it came gives no title.
router.afterEach((to, _from, failure) => {
  if (!failure) document.title = `${String(to.meta.title)} · Tidy Kiln`
})
