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
}

for (const [name, body] of Object.entries(pictures)) {
  writeFileSync(new URL(`pictures/${name}.svg`, import.meta.url), `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 400" width="400" height="400">${body}</svg>\n`)
}
