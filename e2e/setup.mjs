// Before all browser tests: the demo is told once.
import { tellOnce } from './studio.mjs'

export default () => tellOnce(8454)
