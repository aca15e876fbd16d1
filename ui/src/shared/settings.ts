import { computed, ref, watch, type Ref } from 'vue'

// kept is a setting of this device, remembered by the browser.
function kept<T>(name: string, initial: T): Ref<T> {
  let start = initial
  try {
    const text = localStorage.getItem(name)
    if (text !== null) start = JSON.parse(text) as T
  } catch {
    // A browser that keeps nothing still works: the setting lasts as long as the page.
  }
  const setting = ref(start) as Ref<T>
  watch(setting, (value) => {
    try {
      localStorage.setItem(name, JSON.stringify(value))
    } catch {
      // as above
    }
  })
  return setting
}

// personId is who is at this device; 0 until somebody has said so.
export const personId = kept('person', 0)

// role is what this device may do, as far as was said last; an owner's where nobody signs in.
export const role = kept<'owner' | 'maker' | 'helper' | 'viewer'>('role', 'owner')

// seesBusiness says that prices and customers are shown here; runs, that the day's business is done here.
export const seesBusiness = computed(() => role.value !== 'helper')
export const runs = computed(() => role.value === 'owner' || role.value === 'maker')

// deviceName is how this device is told from others.
export const deviceName = kept('device', crypto.getRandomValues(new Uint32Array(2)).join('-'))

// lettersOn says whether single letters act as keys.
export const lettersOn = kept('letters', true)

// soundOn says whether the end of a short rest is heard on this device.
export const soundOn = kept('sound', true)

// lotByLot says that like work is taken up lot by lot on this device, not in sittings.
export const lotByLot = kept('lot-by-lot', false)

// firstSteps is how this device stands to the first steps: not looked yet, on
// the way, or past them.
export const firstSteps = kept<'unknown' | 'going' | 'past'>('first-steps', 'unknown')

// ribbonOpen is whether the day ribbon stands open: on pages about time, and on the others.
export const ribbonOpen = kept('ribbon-open', { time: true, others: false })

// ribbonHeight is how tall the day ribbon was last, in pixels.
export const ribbonHeight = kept('ribbon-height', 96)
