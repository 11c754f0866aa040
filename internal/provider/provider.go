// Package provider lets people sign in with an account that the school or its authority gives them, by OpenID Connect:
// the authorization code flow with PKCE (RFC 7636), a state and a nonce.
package provider

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"sync"
	"time"
	"unicode"

	"github.com/coreos/go-oidc/v3/oidc"
	"golang.org/x/oauth2"
)

// Settings of a provider of sign-ins.
type Settings struct {
	Name    string // on the button: "Sign in with NAME"
	Issuer  string // its address, below which /.well-known/openid-configuration is
	Client  string // the id that the provider knows this application by
	Secret  string // of the client
	Address string // of this application, as browsers see it
}

// BackPath is the page to which the provider sends people back.
const BackPath = "/come-in"

const timeout = 15 * time.Second

// Provider asks one issuer.
type Provider struct {
	settings   Settings
	client     *http.Client
	mu         sync.Mutex
	discovered *oidc.Provider
}

// Errors of a provider.
var (
	ErrAway    = errors.New("the provider of the sign-in does not answer")
	ErrRefused = errors.New("the provider of the sign-in did not vouch for anybody")
)

// Open checks settings; with none at all it is nil. The provider itself is asked when somebody first signs in, so that
// a server starts without it.
func Open(s Settings) (*Provider, error) {
	if s.Issuer == "" {
		return nil, nil
	}
	issuer, err := url.Parse(s.Issuer)
	loopback := err == nil && (issuer.Hostname() == "127.0.0.1" || issuer.Hostname() == "localhost")
	if err != nil || issuer.Host == "" || issuer.Scheme != "https" && !loopback {
		return nil, fmt.Errorf("the issuer %q is not an address that begins with https://", s.Issuer)
	}
	if s.Client == "" || s.Address == "" {
		return nil, errors.New("a sign-in by a provider needs the client's id and the address of this application")
	}
	if s.Name == "" {
		s.Name = issuer.Hostname()
	}
	return &Provider{settings: s, client: &http.Client{Timeout: timeout}}, nil
}

// Name is what the button says.
func (p *Provider) Name() string { return p.settings.Name }

// Issuer is who vouches.
func (p *Provider) Issuer() string { return p.settings.Issuer }

// Way is what one sign-in needs to be finished by the browser that began it.
type Way struct{ State, Nonce, Verifier string }

// NewWay makes one.
func NewWay() Way {
	return Way{oauth2.GenerateVerifier(), oauth2.GenerateVerifier(), oauth2.GenerateVerifier()}
}

// Begin is where the browser goes to, for a way.
func (p *Provider) Begin(ctx context.Context, w Way) (string, error) {
	c, _, err := p.config(ctx)
	if err != nil {
		return "", err
	}
	return c.AuthCodeURL(w.State, oidc.Nonce(w.Nonce), oauth2.S256ChallengeOption(w.Verifier)), nil
}

// Person is who the provider vouches for. Email is empty where it does not say that the address was verified.
type Person struct{ Issuer, Subject, Email, Name string }

// Finish turns the code that the browser brought back into who it is.
func (p *Provider) Finish(ctx context.Context, w Way, code string) (Person, error) {
	c, found, err := p.config(ctx)
	if err != nil {
		return Person{}, err
	}
	ctx = oidc.ClientContext(ctx, p.client)
	token, err := c.Exchange(ctx, code, oauth2.VerifierOption(w.Verifier))
	if err != nil {
		return Person{}, failure(err)
	}
	raw, _ := token.Extra("id_token").(string)
	id, err := found.Verifier(&oidc.Config{ClientID: p.settings.Client}).Verify(ctx, raw)
	if err != nil {
		return Person{}, failure(err)
	}
	if id.Nonce != w.Nonce || id.Subject == "" {
		return Person{}, fmt.Errorf("%w: an answer to another question", ErrRefused)
	}
	var said struct {
		Email    string `json:"email"`
		Verified truth  `json:"email_verified"`
		Name     string `json:"name"`
		Party    string `json:"azp"`
	}
	if err := id.Claims(&said); err != nil {
		return Person{}, fmt.Errorf("%w: %w", ErrRefused, err)
	}
	// Whom the token was made for, where it may be read by several (OpenID Connect Core 1.0, section 3.1.3.7).
	if said.Party != "" && said.Party != p.settings.Client || len(id.Audience) > 1 && said.Party == "" {
		return Person{}, fmt.Errorf("%w: the token is for %q", ErrRefused, said.Party)
	}
	if !bool(said.Verified) || !isASCII(said.Email) {
		said.Email = ""
	}
	return Person{id.Issuer, id.Subject, said.Email, said.Name}, nil
}

// truth is a boolean that some providers write as text.
type truth bool

// UnmarshalJSON reads true and "true"; all else is false.
func (v *truth) UnmarshalJSON(data []byte) error {
	text := string(data)
	*v = text == "true" || text == `"true"`
	return nil
}

// isASCII tells whether a verified address can be compared with those that are kept: of other signs some look like
// letters, and are taken for them when capitals are ignored (the sign of Kelvin for k).
func isASCII(text string) bool {
	return !strings.ContainsFunc(text, func(r rune) bool { return r > unicode.MaxASCII })
}

// failure tells a provider that does not answer from one that says no.
func failure(err error) error {
	var answered *oauth2.RetrieveError
	var line *url.Error
	away := errors.As(err, &line) || errors.Is(err, context.DeadlineExceeded) ||
		strings.Contains(err.Error(), "fetching keys") // go-oidc gives its reason as text only
	if errors.As(err, &answered) {
		away = answered.Response.StatusCode >= 500
	}
	if away {
		return fmt.Errorf("%w: %w", ErrAway, err)
	}
	return fmt.Errorf("%w: %w", ErrRefused, err)
}

// config looks the provider up, once it answers.
func (p *Provider) config(ctx context.Context) (oauth2.Config, *oidc.Provider, error) {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.discovered == nil {
		bound, cancel := context.WithTimeout(ctx, timeout)
		defer cancel()
		// The keys are fetched anew long after this call: their context is not that of a request.
		found, err := oidc.NewProvider(oidc.ClientContext(bound, p.client), p.settings.Issuer)
		if err != nil {
			return oauth2.Config{}, nil, fmt.Errorf("%w: %w", ErrAway, err)
		}
		p.discovered = found
	}
	return oauth2.Config{
		ClientID: p.settings.Client, ClientSecret: p.settings.Secret, Endpoint: p.discovered.Endpoint(),
		RedirectURL: p.settings.Address + BackPath, Scopes: []string{oidc.ScopeOpenID, "email", "profile"},
	}, p.discovered, nil
}
