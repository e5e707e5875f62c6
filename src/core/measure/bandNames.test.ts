import { BAND_CENTRES } from './bands'
import { nominalBand } from './bandNames'

test('third-octave bands are called as the standard calls them', () => {
  const names = [63, 80, 100, 125, 160, 200, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000, 2500, 3150]
  expect(BAND_CENTRES.map(nominalBand)).toEqual([...names, 4000, 5000, 6300, 8000, 10000, 12500, 16000])
})
