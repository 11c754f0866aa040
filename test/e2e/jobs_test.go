package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What takes long is asked for, watched, stopped, and fetched from whatever page one is on by then.
func TestWhatTakesLong(t *testing.T) {
	s := open(t)
	s.signIn(t, "lead")
	require.NoError(t, s.tab.Before(`window.saved = []; addEventListener('click', (e) => {
		const a = e.target.closest && e.target.closest('a[download]')
		if (a) { window.saved.push(a.getAttribute('href')); e.preventDefault() } }, true)`))
	require.NoError(t, s.tab.Go(s.server.URL+"/bring"))
	require.NoError(t, s.tab.ClickText("ZIP of pictures"))
	require.NoError(t, s.tab.Click(`[aria-label="Stop: The cards as pictures"]`)) // at once: it takes seconds
	require.NoError(t, s.tab.ClickText("Without voices"))
	require.NoError(t, s.tab.SeeText("1 made for you"))
	require.NoError(t, s.tab.See(`a[download][href$="/file"]`))
	assert.Equal(t, "1", mustEval(t, s.tab, `String(window.saved.length)`), "saved by itself, once")
	s.axe(t, "a file that waits")
	require.NoError(t, s.tab.Go(s.server.URL+"/team?tab=print"))
	require.NoError(t, s.tab.ClickText("1 made for you"))
	assert.Equal(t, "200 application/zip", mustEval(
		t,
		s.tab,
		`fetch(document.querySelector('a[download][href$="/file"]').href)
			.then((r) => r.status + ' ' + r.headers.get('content-type'))`,
	))
	require.NoError(t, s.tab.Click(`[aria-label="Put away: The library without recordings"]`))
	assert.Equal(t, "gone", mustEval(t, s.tab, `new Promise((done) => { const look = () => document.querySelector(
		'[aria-label="Made for you"]') ? setTimeout(look, 50) : done('gone'); look() })`))

	require.NoError(t, s.tab.Go(s.server.URL+"/booth?tab=shelf"))
	require.NoError(t, s.tab.ClickText("Judge them all again"))
	require.NoError(t, s.tab.SeeText("every verdict is as it was"))
	require.NoError(t, s.tab.SeeText("47 takes judged"))
}
