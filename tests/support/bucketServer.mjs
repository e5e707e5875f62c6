import crypto from 'node:crypto'
import S3rver from 's3rver'

/**
 * A server on loopback that speaks the S3 protocol, with one bucket: `node bucketServer.mjs FOLDER PORT`. A process of its
 * own, so that it answers also while a test waits for another program.
 */

giveBackDes()
const [folder, port] = process.argv.slice(2)
await new S3rver({
  port: Number(port),
  address: '127.0.0.1',
  silent: true,
  directory: folder,
  configureBuckets: [{ name: 'yarn-step', configs: [] }],
}).run()
console.log('ready')

/** It codes its page marks by DES, which Node has no more; three times the same key is the same cipher. */
function giveBackDes() {
  const { createCipheriv, createDecipheriv } = crypto
  const triple = (key) => Buffer.concat([key, key, key])
  crypto.createCipheriv = (name, key, iv) =>
    name === 'des' ? createCipheriv('des-ede3-cbc', triple(key), iv) : createCipheriv(name, key, iv)
  crypto.createDecipheriv = (name, key, iv) =>
    name === 'des' ? createDecipheriv('des-ede3-cbc', triple(key), iv) : createDecipheriv(name, key, iv)
}
