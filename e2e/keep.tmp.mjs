import { startStudio } from './studio.mjs'
const s = await startStudio({ port: 8439, at: '2027-05-04T10:26:00Z', ...(process.argv[2] === 'empty' ? { empty: true } : {}) })
console.log(s.url)
process.on('SIGTERM', async () => { await s.stop(); process.exit(0) })
setInterval(() => {}, 1e6)
