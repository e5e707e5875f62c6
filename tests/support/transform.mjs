import swc from '@swc/jest'

/**
 * TypeScript for Jest, by swc. Tests run in contexts of their own, where a name like `Math` is looked up by a callback,
 * some hundred times slower than elsewhere; what is reckoned with in loops is made a name of each module's own.
 */

const OWN = [
  ...['Math', 'Number', 'Infinity', 'NaN', 'Array', 'Object', 'Map', 'Set', 'String'],
  ...['Float32Array', 'Float64Array', 'Int8Array', 'Int16Array', 'Int32Array'],
  ...['Uint8Array', 'Uint8ClampedArray', 'Uint16Array', 'Uint32Array'],
]

/** In the first line, so that all lines stay where they are. */
const withOwn = ({ code, ...rest }) => {
  const used = OWN.filter((name) => new RegExp(`\\b${name}\\b`).test(code))
  return { ...rest, code: used.length > 0 ? `const { ${used.join(', ')} } = globalThis; ${code}` : code }
}

export default {
  createTransformer(options) {
    const { canInstrument, getCacheKey, process, processAsync } = swc.createTransformer(options)
    return {
      canInstrument,
      getCacheKey: (...given) => `${getCacheKey(...given)}-own`,
      process: (...given) => withOwn(process(...given)),
      processAsync: async (...given) => withOwn(await processAsync(...given)),
    }
  },
}
