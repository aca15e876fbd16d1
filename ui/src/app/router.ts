import { createRouter, createWebHistory } from 'vue-router'

export interface Section {
  path: string
  name: string
  // whoever is at the bench only goes there too
  bench?: boolean
}

// The sections, in the order of the top line and of the number keys.
export const sections: Section[] = [
  { path: '/', name: 'Today', bench: true },
  { path: '/plan', name: 'Plan', bench: true },
  { path: '/orders', name: 'Orders' },
  { path: '/products', name: 'Products' },
  { path: '/prints', name: 'Prints' },
  { path: '/stores', name: 'Stores' },
  { path: '/notebook', name: 'Notebook' },
  { path: '/workshop', name: 'Workshop' },
]

// What a helper goes to instead of the whole of Prints: the sheets to be printed.
export const benchSections: Section[] = [...sections.filter((s) => s.bench), { path: '/prints/sheets', name: 'Sheets' }]

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: () => import('../desk/TodayPage.vue'), meta: { title: 'Today', bench: true } },
    { path: '/plan', component: () => import('../planning/PlanPage.vue'), meta: { title: 'Plan', bench: true } },
    { path: '/orders', component: () => import('../orders/OrdersPage.vue'), meta: { title: 'Orders' } },
    { path: '/orders/quotes', component: () => import('../trade/QuotesPage.vue'), meta: { title: 'Quotes' } },
    {
      path: '/quote/:token',
      component: () => import('../trade/ShownQuotePage.vue'),
      meta: { title: 'A quote', bench: true },
    },
    { path: '/orders/owed', component: () => import('../trade/OwedPage.vue'), meta: { title: 'Money to come' } },
    { path: '/orders/papers', component: () => import('../papers/PapersPage.vue'), meta: { title: 'Papers' } },
    { path: '/orders/labels', component: () => import('../papers/LabelsPage.vue'), meta: { title: 'Labels' } },
    { path: '/workshop/texts', component: () => import('../messages/TextsPage.vue'), meta: { title: 'Texts' } },
    { path: '/workshop/terms', component: () => import('../trade/TermsPage.vue'), meta: { title: 'Terms' } },
    {
      path: '/orders/customers',
      component: () => import('../customers/CustomersPage.vue'),
      meta: { title: 'Customers' },
    },
    { path: '/products', component: () => import('../products/ProductsPage.vue'), meta: { title: 'Products' } },
    { path: '/products/new', component: () => import('../desk/ChooserPage.vue'), meta: { title: 'New product' } },
    { path: '/products/library', component: () => import('../library/LibraryPage.vue'), meta: { title: 'Library' } },
    { path: '/products/:id(\\d+)', component: () => import('../products/ProductPage.vue'), meta: { title: 'Product' } },
    { path: '/products/prices', component: () => import('../selling/PricesPage.vue'), meta: { title: 'Prices' } },
    { path: '/prints', component: () => import('../artwork/ArtworksPage.vue'), meta: { title: 'Prints' } },
    {
      path: '/prints/sheets',
      component: () => import('../prints/SheetsPage.vue'),
      meta: { title: 'Sheets', bench: true },
    },
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
    {
      path: '/workshop/access',
      component: () => import('../access/AccessPage.vue'),
      meta: { title: 'Who may come in', bench: true },
    },
    { path: '/workshop/health', component: () => import('../health/HealthPage.vue'), meta: { title: 'Is all well?' } },
    { path: '/workshop/trail', component: () => import('../trail/TrailPage.vue'), meta: { title: 'Who did what' } },
    {
      path: '/proof/:token',
      component: () => import('../prints/ShownProofPage.vue'),
      meta: { title: 'Your pieces', bench: true },
    },
    { path: '/pair', component: { render: () => null }, meta: { title: 'Let this device in', bench: true } },
    { path: '/:rest(.*)*', component: () => import('./NothingHere.vue'), meta: { title: 'Nothing here', bench: true } },
  ],
})

// A page that was left before it came gives no title.
router.afterEach((to, _from, failure) => {
  if (!failure) document.title = `${String(to.meta.title)} · Tidy Kiln`
})
