import { ref, type Ref } from 'vue'

// usePanel is the one form that stands open under a row of buttons.
// shut closes it by its name: whoever saves one and has opened the next meanwhile keeps the next.
export function usePanel<Panel extends string>() {
  const panel = ref('') as Ref<Panel | ''>
  const toggle = (one: Panel) => (panel.value = panel.value === one ? '' : one)
  const shut = (one?: Panel) => {
    if (one === undefined || panel.value === one) panel.value = ''
  }
  return { panel, toggle, shut }
}
