// Composes the demo team's mnemonic pictures: each holds its letter's own shape. Run: node demo/make-pictures.mjs
import { writeFileSync } from 'node:fs'

const ink = '#1e2b30', water = '#8ec6d6', deep = '#6fb0c4', grass = '#a9c98a', brick = '#c9764f', wood = '#a8743f', cream = '#fbf1d8', gold = '#f6c453', coral = '#ec8f7a', sky = '#e3f1f4', stone = '#c9c4b5', green = '#5f8f56'

const line = (d, w = 6, c = ink) => `<path d="${d}" fill="none" stroke="${c}" stroke-width="${w}" stroke-linecap="round" stroke-linejoin="round"/>`
const shape = (d, fill, w = 6) => `<path d="${d}" fill="${fill}" stroke="${ink}" stroke-width="${w}" stroke-linejoin="round" stroke-linecap="round"/>`
const rect = (x, y, w, h, fill, r = 0, s = 6) => `<rect x="${x}" y="${y}" width="${w}" height="${h}" rx="${r}" fill="${fill}" stroke="${ink}" stroke-width="${s}"/>`
const flat = (x, y, w, h, fill) => `<rect x="${x}" y="${y}" width="${w}" height="${h}" fill="${fill}"/>`
const disc = (x, y, r, fill, s = 6) => `<circle cx="${x}" cy="${y}" r="${r}" fill="${fill}"${s ? ` stroke="${ink}" stroke-width="${s}"` : ''}/>`
const oval = (x, y, rx, ry, fill, s = 6) => `<ellipse cx="${x}" cy="${y}" rx="${rx}" ry="${ry}" fill="${fill}"${s ? ` stroke="${ink}" stroke-width="${s}"` : ''}/>`
// The letter: a thick outlined stroke, the same in every picture.
const letter = (d, c) => line(d, 46) + line(d, 34, c)
const waves = (y, c = deep) => [0, 1, 2].map((r) => line([0, 1, 2, 3].map((i) => `M${14 + i * 92 + r * 28} ${y + r * 26}q18-12 36 0`).join(''), 5, c)).join('')
const canal = (y) => flat(0, y, 400, 400 - y, water) + waves(y + 24)
const day = flat(0, 0, 400, 400, sky)
const eye = (x, y, r = 5) => disc(x, y, r, ink, 0)

// Letters of several signs: each by its path in a box of x-height 100 that stands on y = 0, thinner than a letter alone.
const signs = {
  a: 'M100 -50A50 50 0 1 1 100 -50.1M100 -104V0',
  c: 'M88 -84A50 50 0 1 0 88 -16',
  e: 'M2 -50H100A50 50 0 1 0 86 -12',
  h: 'M0 -170V0M0 -50Q0 -100 45 -100Q90 -100 90 -50V0',
  i: 'M0 -100V0',
  j: 'M40 -100V30Q40 70 -6 70',
  k: 'M0 -170V0M78 -100L0 -42L84 0',
  l: 'M0 -170V0',
  n: 'M0 -100V0M0 -50Q0 -100 45 -100Q90 -100 90 -50V0',
  g: 'M100 -50A50 50 0 1 1 100 -50.1M100 -104V30Q100 72 50 72Q18 72 4 52',
  o: 'M100 -50A50 50 0 1 1 100 -50.1',
  r: 'M0 -100V0M0 -44Q6 -100 66 -100',
  s: 'M76 -84Q62 -100 40 -100Q4 -100 4 -74Q4 -54 40 -50Q78 -46 78 -24Q78 0 40 0Q12 0 0 -18',
  t: 'M0 -140V-34Q0 0 36 0M-34 -100H44',
  u: 'M0 -100V-45Q0 0 45 0Q90 0 90 -45M90 -100V0',
  v: 'M0 -100L46 0L92 -100',
  w: 'M0 -100L38 0L76 -90L114 0L152 -100',
  x: 'M0 -100L84 0M84 -100L0 0',
  y: 'M0 -100V-45Q0 0 42 0Q84 0 84 -45M84 -100V34Q84 76 42 76Q14 76 0 58',
  z: 'M0 -100H84L0 0H88',
}
// The numbers of a path, moved and made larger; those of an arc are radii, flags and an end.
const moved = (d, x, y, k) => d.replace(/([A-Z])([^A-Z]*)/g, (_, c, rest) => {
  const n = rest.trim().split(/[\s,]+/).map(Number)
  const at = { H: () => [x + n[0] * k], V: () => [y + n[0] * k], A: () => [n[0] * k, n[1] * k, n[2], n[3], n[4], x + n[5] * k, y + n[6] * k] }
  const out = at[c] ? at[c]() : n.map((v, i) => (i % 2 ? y : x) + v * k)
  return c + out.map((v) => Math.round(v * 10) / 10).join(' ')
})
const sign = (g, x, y, c, k = 1.2, w = 40) => line(moved(signs[g], x, y, k), w) + line(moved(signs[g], x, y, k), w - 12, c)
const bricks = (x, y, w, h) => rect(x, y, w, h, brick) + line([...Array(Math.floor(h / 40)).keys()].slice(1).map((r) => `M${x} ${y + r * 40}H${x + w}`).join(''), 4, '#a85a38')
const night = flat(0, 0, 400, 400, '#3d5470')
const ground = (y, c = grass) => flat(0, y, 400, 400 - y, c) + line(`M0 ${y}H400`)

const pictures = {
  // tiller: the post bends into the water, the bar lies across
  t: day + canal(250) + shape('M20 250H300L270 320H60Z', brick) + rect(60, 190, 110, 60, cream, 8) + rect(80, 205, 26, 26, water, 4) + rect(124, 205, 26, 26, water, 4) + letter('M250 80V270Q250 310 290 310H302', wood) + letter('M190 160H310', gold) + disc(310, 160, 12, coral),
  // axle: the wheel is the round of the a, the shaft its stick
  a: day + flat(0, 320, 400, 80, grass) + line('M0 320H400') + shape('M60 90H340L320 165H80Z', wood) + line('M100 90L110 165M160 90L164 165M220 90L220 165M280 90L274 165') + letter('M262 230A66 66 0 1 1 262 229.9', gold) + line('M196 175V285M141 230H251M157 191L235 269M235 191L157 269', 6) + disc(196, 230, 17, coral) + letter('M284 158V300', wood),
  // market: two arches of the awning on three poles
  m: day + flat(0, 300, 400, 100, stone) + line('M0 300H400') + shape('M70 60H330L355 140H45Z', cream) + shape('M110 60L95 140H145L150 60Z', coral) + shape('M190 60L190 140H240L232 60Z', coral) + shape('M270 60L282 140H330L310 60Z', coral) + rect(128, 258, 70, 42, wood, 4) + disc(146, 250, 15, gold) + disc(176, 250, 15, gold) + rect(218, 258, 70, 42, wood, 4) + disc(236, 250, 15, green) + disc(268, 250, 15, green) + letter('M100 305V165M100 215Q100 168 152 168T204 215V305M204 215Q204 168 256 168T308 215V305', gold),
  // soup: the steam rises as an s
  s: flat(0, 0, 400, 400, cream) + flat(0, 330, 400, 70, wood) + line('M0 330H400') + shape('M90 290H310Q305 360 250 370H150Q95 360 90 290Z', coral) + oval(200, 290, 110, 20, gold) + line('M120 325Q200 345 280 325', 6, cream) + letter('M262 92Q240 62 200 62Q142 62 142 104Q142 140 202 150Q264 160 264 200Q264 242 202 242Q158 242 138 212', '#ffffff'),
  // inn: the post is the stick of the i, the lantern its dot
  i: day + flat(0, 320, 400, 80, grass) + line('M0 320H400') + rect(30, 150, 130, 170, cream) + shape('M15 155L95 80L175 155Z', brick) + rect(75, 240, 42, 80, wood, 4) + rect(50, 180, 32, 34, gold, 3) + rect(108, 180, 32, 34, gold, 3) + rect(285, 210, 90, 110, cream) + shape('M272 215L330 165L388 215Z', brick) + rect(312, 250, 34, 40, gold, 3) + letter('M222 165V305', wood) + shape('M222 60L196 84V122H248V84Z', gold) + line('M196 103H248M222 84V122', 4) + line('M222 60V44'),
  // nap: the cat naps on the narrow bridge
  n: day + canal(300) + shape('M0 400V210Q200 90 400 210V400H300V260Q300 190 200 190T100 260V400Z', stone) + letter('M140 320V200M140 245Q140 196 200 196T260 245V320', brick) + shape('M140 128Q140 78 200 80Q262 80 262 130Z', gold) + disc(140, 108, 32, gold) + shape('M118 88L114 58L138 76Z', gold) + shape('M146 76L166 60L168 90Z', gold) + line('M124 108Q130 114 136 108M146 108Q152 114 158 108', 5) + line('M262 126Q300 120 292 92', 12, gold) + line('M208 52H230L208 72H230M244 26H262L244 42H262', 6),
  // pan: the handle hangs down, the pan is the round of the p
  p: flat(0, 0, 400, 400, cream) + flat(0, 0, 400, 70, wood) + line('M0 70H400M150 70V110') + letter('M140 130V370', wood) + letter('M140 210A72 72 0 1 1 140 211Z', '#7d8a8f') + disc(212, 210, 50, '#4d5a5f', 0) + disc(195, 195, 13, green) + disc(228, 200, 13, green) + disc(208, 230, 13, green) + disc(300, 110, 13, green) + disc(330, 150, 13, green) + disc(320, 250, 13, green),
  // odd: one round window among square ones
  o: day + canal(300) + shape('M0 120H400V310H0Z', brick) + line('M0 140H400', 8, gold) + rect(20, 170, 76, 76, water, 6) + rect(304, 170, 76, 76, water, 6) + line('M58 170V246M20 208H96M342 170V246M304 208H380', 5) + letter('M268 212A68 68 0 1 1 268 211.9', gold) + disc(200, 212, 46, water) + line('M178 196Q190 182 206 184', 6, '#ffffff') + shape('M60 60H340L360 120H40Z', cream),
  // donkey: round body, the neck stands up
  d: day + flat(0, 300, 400, 100, grass) + line('M0 300H400') + rect(130, 270, 26, 80, '#8a8f92', 6) + rect(216, 270, 26, 80, '#8a8f92', 6) + letter('M256 230A66 66 0 1 1 256 229.9', '#9aa0a3') + disc(190, 230, 52, '#9aa0a3', 0) + letter('M270 92V300', '#9aa0a3') + shape('M250 100Q250 66 290 70L352 96Q366 118 346 128L270 132Z', '#9aa0a3') + shape('M254 84L232 20Q252 18 272 72Z', '#9aa0a3') + shape('M278 74L288 14Q304 20 300 74Z', '#9aa0a3') + eye(304, 94, 7) + line('M340 110H346') + line('M122 220Q70 232 64 290', 10) + shape('M54 286H74L70 320H58Z', ink) + shape('M150 168H220L226 214H144Z', coral),
  // heron: the neck is the tall stroke, the back the hump
  h: day + canal(290) + line('M130 290V380M256 290V380', 10, wood) + letter('M136 92V300M136 228Q136 172 196 172T258 228V300', '#9db4bd') + disc(140, 84, 34, '#dfe7ea') + shape('M112 78L20 98L114 104Z', gold) + eye(128, 78, 7) + line('M160 62Q190 40 220 52', 10) + line('M170 230Q210 220 236 250', 8) + line('M330 400V220M355 400V250M380 400V230', 9, green) + oval(330, 215, 10, 26, wood) + oval(380, 222, 10, 26, wood),
  // coil: the rope lies in a round that does not close
  c: flat(0, 0, 400, 400, wood) + line('M0 80H400M0 160H400M0 240H400M0 320H400', 5, '#7e5529') + letter('M272 150A92 92 0 1 0 272 270', gold) + line('M272 150Q300 130 330 150T390 140', 26) + line('M272 150Q300 130 330 150T390 140', 16, gold) + line('M140 150l18 14M118 196l24 4M122 240l22-8M150 284l14-18M206 304l0-24M206 118l0 24M248 128l-10 20M252 290l-12-20', 5) + disc(206, 210, 36, stone) + disc(206, 210, 16, '#8b8778'),
  // eddy: the water turns round with a leaf
  e: flat(0, 0, 400, 400, water) + waves(40) + waves(330) + line('M70 200Q60 80 200 70Q345 70 340 210Q335 330 200 335', 8, deep) + letter('M128 214H268A72 72 0 1 0 244 268', '#ffffff') + shape('M288 268Q330 240 366 268Q330 300 288 268Z', green) + line('M288 268H366', 4) + shape('M40 300Q60 280 84 296Q64 318 40 300Z', gold),
  // gong: the round gong, the beater hangs from it
  g: flat(0, 0, 400, 400, cream) + line('M60 380V50H340V380', 16) + line('M60 380V50H340V380', 8, coral) + line('M150 50V130M240 50V130', 5) + letter('M262 210A70 70 0 1 1 262 209.9', gold) + disc(192, 210, 52, gold, 0) + disc(192, 210, 22, '#d9a033') + letter('M276 140V310Q276 362 210 362Q166 362 148 338', wood) + disc(148, 336, 24, coral) + line('M90 150l-22-14M84 210H56M90 268l-22 14', 7),
  // reed: one reed leans over
  r: day + canal(270) + line('M60 400V150M95 400V190M320 400V170M350 400V130', 12, green) + oval(60, 140, 14, 40, wood) + oval(350, 120, 14, 40, wood) + oval(320, 165, 12, 34, wood) + letter('M160 320V160M160 225Q166 166 232 164H240', green) + oval(262, 166, 34, 15, wood) + shape('M210 340Q226 322 250 330L262 322L258 340Q240 356 210 340Z', gold),
  // barrel: it stands against the mooring post
  b: day + canal(290) + flat(0, 300, 400, 100, stone) + line('M0 300H400') + letter('M130 80V310', wood) + rect(104, 60, 52, 26, coral, 8) + letter('M146 232A72 72 0 1 1 146 233Z', wood) + disc(218, 232, 52, wood, 0) + line('M170 206H266M166 232H270M170 258H266', 6) + disc(218, 232, 14, gold) + line('M130 130Q60 150 0 120', 12) + line('M130 130Q60 150 0 120', 5, gold),
  // uncle: he lies in the hammock between two posts
  u: day + flat(0, 330, 400, 70, grass) + line('M0 330H400') + disc(40, 90, 70, green) + disc(370, 80, 70, green) + rect(88, 80, 26, 250, wood) + rect(300, 80, 26, 250, wood) + disc(206, 205, 44, '#eab98f') + line('M186 200Q192 206 198 200M216 200Q222 206 228 200', 5) + line('M190 222Q206 236 224 222', 6) + shape('M160 180Q206 110 252 180Z', gold) + line('M146 180H266', 10) + letter('M136 160V252Q136 310 206 310T276 252M276 160V310', coral),
  // ladder: down the wall of the lock
  l: flat(0, 0, 400, 400, brick) + line('M0 70H400M0 140H400M0 210H400M0 280H400M60 0V70M180 0V70M300 0V70M120 70V140M240 70V140M360 70V140M60 140V210M180 140V210M300 140V210M120 210V280M240 210V280M360 210V280', 5, '#a85a38') + canal(320) + line('M258 60V330', 14) + line('M200 110H258M200 160H258M200 210H258M200 260H258M200 300H258', 10) + letter('M200 70V320', gold) + shape('M70 330H150L136 368H84Z', cream) + disc(110, 310, 18, coral),
  // fern: a tip that is still curled
  f: flat(0, 0, 400, 400, cream) + shape('M0 400V330Q120 290 200 330T400 320V400Z', grass) + letter('M270 120Q262 72 220 72Q172 72 172 132V320', green) + letter('M116 180H248', green) + disc(270, 124, 16, gold) + line('M172 240Q120 230 90 260M172 240Q224 230 254 260M172 285Q130 275 104 300M172 285Q214 275 240 300', 10, green) + line('M40 330Q46 270 84 250M340 330Q336 280 310 262', 8, green),
  // ferry: the iron that it is tied to is a cup with a hook below
  'y=iː': day + canal(270) + rect(40, 190, 130, 60, cream, 8) + rect(58, 205, 28, 24, water, 4) + rect(104, 205, 28, 24, water, 4) + shape('M10 246H240L214 310H36Z', coral) + line('M226 262Q250 200 262 230', 12) + line('M226 262Q250 200 262 230', 5, gold) + sign('y', 262, 280, '#8a8f92', 1.25, 42) + line('M60 190V120', 8) + shape('M60 120H110L92 138L110 156H60Z', gold),
  // dock: an iron ring in the wall, a post with two stays
  'ck': flat(0, 0, 400, 400, stone) + line('M0 90H400M0 180H400M0 270H400M90 0V90M240 0V90M160 90V180M330 90V180M60 180V270', 5, '#a9a392') + canal(310) + sign('c', 50, 270, coral, 1.35, 44) + line('M150 170Q190 200 210 330', 14) + line('M150 170Q190 200 210 330', 6, gold) + sign('k', 250, 310, wood, 1.3, 44),
  // rudder: an eddy behind the boat, the rudder post bends over into the tiller
  'er': day + canal(230) + shape('M250 170H400V310H296Z', brick) + rect(320, 110, 80, 60, cream, 6) + sign('e', 40, 330, '#ffffff', 1.1, 42) + sign('r', 220, 330, wood, 1.7, 46) + disc(334, 160, 13, coral),
  // beacon: a window with a bar, a window beside its pipe
  'ea': night + canal(330) + shape('M90 340L120 90H290L320 340Z', cream) + rect(150, 30, 110, 60, gold, 6) + shape('M140 34L205 4L270 34Z', coral) + line('M130 60L30 40M130 76L20 100M280 60L380 40M280 76L390 100', 8, gold) + sign('e', 126, 240, gold, 0.78, 34) + sign('a', 218, 240, coral, 0.78, 34) + rect(186, 280, 40, 60, wood, 4),
  // nose: a smell comes curling to the dog's nose
  's=z': flat(0, 0, 400, 400, cream) + ground(340) + shape('M0 340V150Q20 70 110 80Q190 84 200 150L262 168Q290 190 262 216L190 226Q180 300 190 340Z', wood) + shape('M40 96Q10 130 24 230Q74 220 84 130Z', '#7e5529') + disc(258, 186, 26, ink, 0) + disc(250, 178, 6, '#ffffff', 0) + eye(150, 138, 9) + sign('s', 296, 262, '#ffffff', 1.05, 40) + disc(336, 330, 26, gold) + line('M318 318Q336 306 354 318', 5),
  // mooring: an iron hoop in the quay, a ring of rope with its end hanging down
  'ng': day + canal(290) + flat(0, 200, 400, 100, stone) + line('M0 200H400M0 300H400') + sign('n', 50, 240, '#8a8f92', 1.2, 42) + sign('g', 210, 250, gold, 1.25, 42) + line('M104 124Q160 70 216 190', 14) + line('M104 124Q160 70 216 190', 6, gold) + shape('M0 330Q40 310 96 330L84 372H0Z', coral),
  // shed: the hose hangs on the wall, the door frame is a post and an arch
  'sh': day + ground(340) + shape('M20 130L200 30L380 130Z', coral) + rect(44, 130, 312, 210, cream) + line('M110 130V340M176 130V340M242 130V340M308 130V340', 4, '#d9cba6') + flat(236, 216, 88, 124, wood) + sign('s', 76, 318, green, 1.3, 42) + sign('h', 232, 320, brick, 1.1, 42) + disc(306, 280, 8, gold),
  // sheep: two on the bank, curled up in their wool
  'ee': day + ground(300) + line('M90 300V350M140 300V350M270 300V350M320 300V350', 12) + disc(106, 234, 78, '#ffffff', 0) + disc(296, 234, 78, '#ffffff', 0) + sign('e', 48, 300, '#ffffff', 1.3, 46) + sign('e', 230, 300, '#ffffff', 1.3, 46) + oval(186, 196, 26, 34, ink) + oval(366, 196, 26, 34, ink) + disc(180, 188, 6, '#ffffff', 0) + disc(360, 188, 6, '#ffffff', 0) + line('M20 330q8-14 16 0M196 340q8-14 16 0M376 330q8-14 16 0', 6, green),
  // gate: a bush beside the first post, the gate between, iron curled at the end
  'a-e': day + ground(320) + disc(60, 272, 40, green, 0) + sign('a', 24, 320, green, 0.94, 38) + line('M134 216H276M134 258H276M134 300H276', 16) + line('M134 216H276M134 258H276M134 300H276', 8, cream) + line('M136 300L274 216', 16) + line('M136 300L274 216', 8, cream) + sign('e', 284, 320, gold, 0.94, 38) + disc(330, 90, 44, gold) + line('M330 26V10M394 90H400M270 90H254M285 45L274 34M375 45L386 34', 8, gold),
  // kayak: two lean on the post by the water
  'k': day + canal(320) + ground(300, stone) + flat(0, 340, 400, 60, water) + sign('k', 120, 320, wood, 1.65, 46) + shape('M120 250Q180 160 306 106Q262 220 136 268Z', coral) + shape('M130 226Q220 238 316 324Q200 330 118 254Z', gold) + oval(214, 184, 26, 14, ink) + oval(214, 284, 26, 13, ink) + line('M120 40V320', 46) + line('M120 40V320', 34, wood),
  // tide: a post with a ball on it shows how high, the water curls
  'i-e': day + canal(230) + sign('i', 110, 330, coral, 1.7, 46) + disc(110, 100, 30, gold) + line('M88 200H132M88 236H132M88 272H132M88 308H132', 6, '#ffffff') + sign('e', 220, 326, '#ffffff', 1.25, 44) + line('M180 350Q290 376 392 340', 8, deep) + shape('M290 96q22-26 40 0q20-26 40 0q-18-4-36 8q-18-14-44-8Z', '#ffffff', 5),
  // wave: up and down and up and down
  'w': day + canal(250) + line('M0 330Q60 360 120 330T240 330T400 340', 8, deep) + letter('M60 130L124 300L200 160L276 300L340 130', deep) + shape('M156 90H250L236 130H170Z', coral) + line('M204 90V30', 8) + shape('M204 30L250 66H204Z', gold),
  // paddle: it stands straight up, the water turns beside it
  'le': day + canal(240) + sign('l', 130, 330, wood, 1.6, 46) + shape('M92 300Q92 232 130 232T168 300Q168 372 130 384Q92 372 92 300Z', gold) + sign('e', 220, 340, '#ffffff', 1.2, 44) + line('M190 366Q290 388 372 330', 8, deep) + rect(104, 40, 52, 24, coral, 8),
  // moon: it looks in at both round windows
  'oo=uː': night + rect(0, 90, 400, 220, brick) + line('M0 120H400M0 280H400', 8, gold) + disc(110, 200, 66, '#3d5470', 0) + disc(290, 200, 66, '#3d5470', 0) + sign('o', 40, 270, gold, 1.4, 46) + sign('o', 220, 270, gold, 1.4, 46) + disc(116, 200, 28, '#fdf6d5') + shape('M300 172A30 30 0 1 0 312 222A38 38 0 0 1 300 172Z', '#fdf6d5') + disc(60, 44, 5, '#fdf6d5', 0) + disc(190, 30, 5, '#fdf6d5', 0) + disc(330, 56, 5, '#fdf6d5', 0) + canal(330),
  // chest: its ring and its latch
  'ch': flat(0, 0, 400, 400, cream) + ground(340, wood) + shape('M30 160Q40 60 200 60T370 160Z', wood) + rect(30, 160, 340, 180, wood, 8) + line('M30 200H370M90 76V160M310 76V160', 10, gold) + sign('c', 86, 320, gold, 1.1, 42) + sign('h', 226, 320, coral, 1.05, 42) + disc(150, 36, 13, gold) + disc(220, 26, 13, gold) + disc(270, 44, 13, gold),
  // arch: a round window by its pillar, the next pillar bends over the water
  'ar': day + canal(320) + shape('M0 110H400V60H0Z', stone) + shape('M0 110H400V330H330Q330 190 240 190V330H0Z', brick, 6) + disc(104, 258, 46, water, 0) + sign('a', 44, 318, gold, 1.2, 42) + sign('r', 238, 330, cream, 1.5, 44) + line('M40 60V30M120 60V30M200 60V30M280 60V30M360 60V30M20 30H380', 8) + shape('M330 346H400V376H342Z', coral),
  // sail: it is round with wind beside its mast, a post with a ball stands by
  'ai': day + canal(290) + disc(150, 200, 76, cream, 0) + sign('a', 66, 284, coral, 1.65, 46) + shape('M30 290H290L262 346H66Z', brick) + sign('i', 344, 320, wood, 1.5, 44) + disc(344, 120, 27, gold) + line('M20 80q20-16 40 0M60 50q20-16 40 0', 7, deep),
  // rope: one rope, round at its start and curled at its end
  'o-e': flat(0, 0, 400, 400, wood) + line('M0 80H400M0 160H400M0 240H400M0 320H400', 5, '#7e5529') + line('M148 248Q190 330 240 236', 30) + line('M148 248Q190 330 240 236', 18, gold) + sign('o', 24, 268, gold, 1.3, 46) + sign('e', 236, 268, gold, 1.3, 46) + line('M40 190l16 10M150 190l-16 10M84 146v20M84 256v-20M260 180l14 12M330 150l-6 18', 5) + disc(86, 204, 22, stone) + line('M356 252Q390 300 380 360', 22) + line('M356 252Q390 300 380 360', 12, gold),
  // van: the road goes down and up, the van stands in the dip
  'v': day + shape('M0 150L60 150L200 330L340 150L400 150V400H0Z', grass) + letter('M74 160L200 322L326 160', '#8a8f92') + rect(128, 90, 150, 110, coral, 14) + rect(146, 108, 56, 40, water, 6) + rect(212, 108, 50, 40, water, 6) + disc(166, 208, 24, ink, 0) + disc(240, 208, 24, ink, 0) + disc(166, 208, 9, stone, 0) + disc(240, 208, 9, stone, 0) + line('M128 168H278', 6),
  // cork: a round float on the water, the rod bends over it
  'or': day + canal(240) + sign('o', 40, 340, coral, 1.3, 46) + line('M60 286H150', 10, '#ffffff') + disc(105, 275, 20, water, 5) + sign('r', 236, 360, wood, 2.1, 46) + line('M374 150Q380 230 160 268', 5) + disc(374, 150, 12, gold),
  // boat: the ring hangs on its side, a round window stands by its mast
  'oa': day + canal(310) + shape('M10 200H390L340 350H60Z', brick) + sign('o', 64, 310, cream, 1.05, 42) + disc(262, 258, 40, water, 0) + sign('a', 208, 310, gold, 1.05, 42) + line('M313 196V60', 14) + shape('M313 60L384 100L313 120Z', coral) + rect(60, 140, 170, 60, cream, 8) + rect(84, 156, 34, 28, water, 4) + rect(140, 156, 34, 28, water, 4) + line('M92 228L128 200M80 290L100 300', 7, coral),
  // cloud: the sun is round behind it, the rain runs into the trough
  'ou': day + ground(350) + disc(108, 130, 60, gold, 0) + sign('o', 44, 196, gold, 1.3, 44) + shape('M150 190Q120 190 126 156Q130 126 168 128Q178 82 232 86Q284 84 294 130Q350 124 350 166Q350 190 320 190Z', '#ffffff') + line('M210 214l-8 26M250 214l-8 26M290 214l-8 26', 8, deep) + flat(224, 268, 88, 66, water) + sign('u', 216, 346, wood, 1.15, 42),
  // thread: the peg with its bar, the thread hangs over the needle
  'th': flat(0, 0, 400, 400, cream) + ground(350, wood) + sign('t', 110, 330, coral, 1.5, 44) + sign('h', 230, 340, '#8a8f92', 1.45, 44) + line('M230 112Q150 60 120 120', 8, coral) + oval(230, 108, 6, 14, ink, 0) + disc(330, 60, 34, coral) + line('M300 50Q330 70 360 50M298 64Q330 84 362 64', 5) + line('M330 94Q330 140 300 200', 6, coral),
  // willow: a round crown, its branches hang down to the water and up again
  'ow=əʊ': day + ground(320) + flat(0, 350, 400, 50, water) + rect(96, 220, 40, 110, wood) + disc(116, 160, 76, green, 0) + sign('o', 46, 230, green, 1.4, 46) + sign('w', 182, 300, green, 1.22, 42) + line('M176 120Q250 60 372 120', 12, green) + line('M182 150V116M274 170V90M367 170V118', 10, green) + line('M216 330q10-16 20 0M300 334q10-16 20 0', 6, '#ffffff'),
  // hook: two rings on the wall, a hook hangs from each
  'oo=ʊ': flat(0, 0, 400, 400, cream) + rect(20, 60, 360, 60, wood, 10) + sign('o', 50, 200, gold, 1.1, 42) + sign('o', 240, 200, gold, 1.1, 42) + line('M105 216V270Q105 310 74 310Q48 310 48 286M295 216V270Q295 310 264 310Q238 310 238 286', 22) + line('M105 216V270Q105 310 74 310Q48 310 48 286M295 216V270Q295 310 264 310Q238 310 238 286', 11, '#8a8f92') + disc(60, 90, 9, ink, 0) + disc(340, 90, 9, ink, 0) + disc(200, 90, 9, ink, 0) + line('M222 312L264 286L306 312', 5) + shape('M216 312H312L300 376H228Z', coral),
  // bay: a round buoy by its post, an iron like a cup with a hook
  'ay': day + shape('M0 200Q60 120 200 130T400 180V240H0Z', grass) + canal(220) + disc(98, 284, 52, coral, 0) + sign('a', 32, 348, coral, 1.3, 44) + sign('y', 244, 280, '#8a8f92', 1.25, 42) + disc(320, 70, 40, gold) + shape('M150 240H230L216 268H164Z', cream) + line('M190 240V196', 6) + shape('M190 196L222 224H190Z', gold),
  // jetty: its post curls under, a lamp like a ball on top
  'j': day + canal(230) + rect(0, 176, 250, 40, wood, 4) + line('M40 216V320M110 216V320', 18) + line('M40 218V318M110 218V318', 8, wood) + letter('M250 150V300Q250 352 190 352Q164 352 152 334', wood) + disc(250, 88, 34, gold) + line('M250 40V24M302 88H318M198 88H182M287 51L298 40M213 51L202 40', 7, gold) + shape('M310 250H400V300H330Z', coral),
  // zip: it runs across, slants down, and runs across
  'z': flat(0, 0, 400, 400, coral) + shape('M60 0H340V400H60Z', '#d97763', 0) + letter('M118 110H282L118 300H290', gold) + line('M140 96v28M170 96v28M200 96v28M230 96v28M260 96v28M148 286v28M178 286v28M208 286v28M238 286v28M268 286v28M236 142l20 20M204 180l20 20M172 218l20 20', 6) + rect(290, 276, 56, 48, cream, 12) + disc(326, 300, 9, ink, 0) + line('M20 0V400M380 0V400', 8, '#d97763'),
  // fox: it looks over the crossed bars of the fence
  'x': day + ground(330) + shape('M118 60L150 116H250L282 60L300 170Q270 236 200 244Q130 236 100 170Z', '#dc8a4a') + shape('M200 244Q160 236 150 196L200 206L250 196Q240 236 200 244Z', '#ffffff', 5) + disc(200, 226, 11, ink, 0) + eye(160, 168, 8) + eye(240, 168, 8) + rect(20, 210, 30, 150, wood) + rect(350, 210, 30, 150, wood) + letter('M100 220L300 352M300 220L100 352', wood),
  // coin: a round one, and a candle beside it
  'oi': flat(0, 0, 400, 400, cream) + ground(330, wood) + disc(140, 220, 76, gold, 0) + sign('o', 64, 296, gold, 1.5, 48) + line('M140 190V250M124 206Q140 190 156 206M124 236Q140 252 156 236', 8) + sign('i', 300, 320, '#ffffff', 1.5, 46) + shape('M300 74Q332 110 300 142Q268 110 300 74Z', gold) + rect(262, 316, 76, 24, coral, 8),
}

// Files are named by the grapheme, and by its sound where that is needed.
const fileOf = (name) => ({ 'y=iː': 'y-ee', 's=z': 's-z', 'oo=uː': 'oo', 'oo=ʊ': 'oo-short', 'ow=əʊ': 'ow' })[name] ?? name

for (const [name, body] of Object.entries(pictures)) {
  writeFileSync(new URL(`pictures/${fileOf(name)}.svg`, import.meta.url), `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 400" width="400" height="400">${body}</svg>\n`)
}
