import { startStudio } from './studio.mjs'
const studio = await startStudio({ port: 8839, at: "2027-05-04T10:26:00Z", backups: true, house: true })
console.log(studio.url, studio.houseUrl)
const stop = async () => { await studio.stop(); process.exit(0) }
process.on('SIGTERM', stop)
setInterval(() => {}, 1000)
