import type { ComponentPublicInstance, Ref } from 'vue'

// useSaid ties the element within a control that has the focus to what is said of it: its hint or fault.
export function useSaid(control: Ref<ComponentPublicInstance | null>) {
  return (described: string | undefined, invalid: boolean | undefined) => {
    const root = control.value?.$el as HTMLElement | undefined
    const field = root?.matches('input, textarea') ? root : root?.querySelector('input, textarea')
    if (!field) return
    set(field, 'aria-describedby', described?.trim())
    set(field, 'aria-invalid', invalid ? 'true' : undefined)
  }
}

function set(field: Element, name: string, value: string | undefined) {
  if (value) field.setAttribute(name, value)
  else field.removeAttribute(name)
}
