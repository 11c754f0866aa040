#!/usr/bin/env python3
"""Lists familiar words whose Southern British sounds disagree with espeak-ng's, schwa and short i taken as one.

Needs Debian's espeak-ng and a built bin/brightchalk; run from the project's folder. espeak-ng only checks:
nothing of its dictionary ships. Each row is: word | ours | espeak-ng's mnemonics.
"""
import json, re, subprocess

import disagreements

rows = [l.split("\t") for l in open("internal/core/lexicon/data/words.txt") if l[0] != "#"]
words = [r[0] for r in rows if int(r[2]) >= 3 and "x" not in r[4]]
seg = [json.loads(l) for l in subprocess.run(["bin/brightchalk", "segment", "--json"], input="\n".join(words), capture_output=True, text=True).stdout.splitlines()]
esp = subprocess.run(["espeak-ng", "-v", "en-gb-x-rp", "-x", "--sep=_", "-q", "--stdin"], input="\n\n".join(words) + "\n", capture_output=True, text=True).stdout
esp = [l.strip() for l in esp.splitlines() if l.strip()]
assert len(esp) == len(seg) == len(words), (len(esp), len(seg), len(words))
E2={'p':'p','b':'b','t':'t','d':'d','k':'k','g':'ɡ','m':'m','n':'n','N':'ŋ','f':'f','v':'v','T':'θ','D':'ð','s':'s','z':'z','S':'ʃ','Z':'ʒ','h':'h','tS':'tʃ','dZ':'dʒ','l':'l','r':'r','w':'w','j':'j','L':'l','r-':'r','t2':'t','d#':'d','z#':'z','n-':'@ n','m-':'@ m','l-':'l','@L':'@ l','@l':'@ l',
'I':'@','I2':'@','I#':'@','@':'@','@2':'@','a#':'@','3':'@','@5':'@','E':'e','E2':'e','E#':'@','a':'æ','V':'ʌ','0':'ɒ','O2':'ɒ','0#':'@','U':'ʊ','i:':'iː','i':'iː','u:':'uː','A:':'ɑː','O:':'ɔː','3:':'ɜː','eI':'eɪ','aI':'aɪ','OI':'ɔɪ','oU':'əʊ','aU':'aʊ','i@':'ɪə','i@3':'ɪə','e@':'eə','U@':'ʊə','A@':'ɑː','O@':'ɔː','aa':'ɑː','aI@':'aɪ @','aI3':'aɪ @','aU@':'aʊ @','aU3':'aʊ @','oU#':'əʊ','V#':'ʌ','u:#':'uː','I@':'ɪə','I3':'ɪə','eI@':'eɪ @','O':'ɔː','VR':'ʌ r','IR':'@ r','i@r':'ɪə r','@r':'@ r','O@r':'ɔː r','e@r':'eə r'}
unk={}
def es(s):
    out=[]
    for p in s.replace("'",'').replace(',','').replace('%','').replace('=','').split('_'):
        p=p.strip(':;|') if p not in ('i:','u:','A:','O:','3:') else p
        if not p or p in ('_','-'): continue
        if p in E2: out+=E2[p].split()
        else: unk[p]=unk.get(p,0)+1; out.append('?'+p)
    return out
def mine(ps): 
    return ['@' if p in('ɪ','ə') else p for p in ps]
def norm(l):
    s=' '.join(l)
    s=re.sub(r'@ (l|n|m)(?= |$)',r'\1',s)
    s=s.replace('ʊə','ɔː').replace('j ɔː','j ɔː')
    s=re.sub(r'iː @','ɪə',s); s=re.sub(r'aɪ @','aɪ',s); s=re.sub('aʊ @','aʊ',s)
    return s
bad=[]
for e,m in zip(esp,seg):
    a=norm(es(e)); cands=[norm(mine(m['phonemes']))]+[norm(mine(x['phonemes'])) for x in m['alternatives']]
    if a not in cands: bad.append((m['word'],' '.join(m['phonemes']),e))
print(len(words), 'familiar words,', len(bad), 'disagree; unknown mnemonics:', unk)
disagreements.report('southern-english', [(b[0], b[1].replace(' ', ''), b[2].replace('_', '')) for b in bad])
