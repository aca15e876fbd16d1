// saidOf ties the element of a control that has the focus, which bears the id, to
// what is said of it: its hint or fault.
export function saidOf(id: string, described: string | undefined, invalid: boolean | undefined) {
  const field = document.getElementById(id)
  if (!field) return
  set(field, 'aria-describedby', described?.trim())
  set(field, 'aria-invalid', invalid ? 'true' : undefined)
}

function set(field: Element, name: string, value: string | undefined) {
  if (value) field.setAttribute(name, value)
  else field.removeAttribute(name)
}
