document.documentElement.classList.add('js')
const still = matchMedia('(prefers-reduced-motion: reduce)').matches
// Strokes, one after the other, with their words.
document.querySelectorAll('[data-write]').forEach((button) => {
  button.addEventListener('click', async () => {
    const box = button.closest('[data-letter]')
    const paths = [...box.querySelectorAll('path.ink')]
    const words = box.querySelectorAll('li')
    const mine = (box.turn = (box.turn || 0) + 1)
    paths.forEach((p) => (p.style.visibility = 'hidden'))
    for (const [i, p] of paths.entries()) {
      p.style.visibility = 'visible'
      p.classList.add('now')
      words.forEach((w, k) => (w.style.fontWeight = k === i ? '700' : ''))
      const length = p.getTotalLength()
      if (!still && length > 0.01) {
        p.style.strokeDasharray = length + ' ' + length * 2
        await p.animate([{ strokeDashoffset: length }, { strokeDashoffset: 0 }], { duration: length * 900, easing: 'ease-in-out' }).finished
        p.style.strokeDasharray = ''
      }
      await new Promise((d) => setTimeout(d, 400))
      p.classList.remove('now')
      if (box.turn !== mine) return
    }
    words.forEach((w) => (w.style.fontWeight = ''))
  })
})
// Turnover: all cards shuffled; the picture side gets the rhyme, the letter side the sound.
const drill = document.getElementById('drill')
const cards = [...document.querySelectorAll('article[data-card]')]
let deck = []
let at = 0
const show = () => {
  const { card, side } = deck[at]
  const face = drill.querySelector('[data-face]')
  face.replaceChildren()
  const picture = card.querySelector('img.picture')
  if (side === 'picture' && picture) {
    const img = new Image()
    img.src = picture.src
    img.alt = picture.alt
    const p = document.createElement('p')
    p.textContent = card.dataset.short
    face.append(img, p)
  } else {
    const p = document.createElement('div')
    p.className = 'big'
    p.textContent = card.dataset.card
    face.append(p)
  }
  drill.querySelector('[data-count]').textContent = at + 1 + ' of ' + deck.length
}
const move = (by) => {
  at += by
  if (at >= deck.length) return leave()
  at = Math.max(0, at)
  show()
}
const leave = () => drill.classList.remove('on')
const begin = () => {
  deck = cards.flatMap((card) => (card.querySelector('img.picture') ? ['picture', 'letter'] : ['letter']).map((side) => ({ card, side })))
  for (let i = deck.length - 1; i > 0; i--) {
    const k = Math.floor(Math.random() * (i + 1))
    ;[deck[i], deck[k]] = [deck[k], deck[i]]
  }
  at = 0
  drill.classList.add('on')
  show()
}
const hear = () => deck[at].card.querySelector('audio')?.play()
document.querySelector('[data-begin]')?.addEventListener('click', begin)
drill.querySelector('[data-on]').addEventListener('click', () => move(1))
drill.querySelector('[data-back]').addEventListener('click', () => move(-1))
drill.querySelector('[data-hear]').addEventListener('click', hear)
drill.querySelector('[data-leave]').addEventListener('click', leave)
addEventListener('keydown', (e) => {
  if (!drill.classList.contains('on')) return
  const calls = { ' ': () => move(1), ArrowRight: () => move(1), ArrowLeft: () => move(-1), p: hear, Escape: leave }
  const call = calls[e.key]
  if (!call) return
  e.preventDefault()
  call()
})
