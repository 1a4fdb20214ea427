import { svgText } from '../wiring/drawing'
import { codesNotHere } from './home-html'
import { plainPassphrase } from './passphrase'

/** A setup code as the household’s own page shows it. */
export interface KeptCode {
  name: string
  where: string
  serial: string
  code: string
}

/** OWASP Password Storage Cheat Sheet (2023), PBKDF2 with HMAC-SHA-256: 600,000 rounds. */
const rounds = 600_000
/** Base64, but for the rounds of the key. */
export interface SealedCodes {
  salt: string
  iv: string
  rounds: number
  data: string
}

const base64 = (bytes: Uint8Array) => btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''))
const bytesOf = (text: string) => Uint8Array.from(atob(text), (sign) => sign.charCodeAt(0))
async function keyOf(passphrase: string, salt: Uint8Array<ArrayBuffer>, count: number, use: 'encrypt' | 'decrypt'): Promise<CryptoKey> {
  const raw = new TextEncoder().encode(plainPassphrase(passphrase))
  const from = await crypto.subtle.importKey('raw', raw, 'PBKDF2', false, ['deriveKey'])
  return crypto.subtle.deriveKey(
    { name: 'PBKDF2', hash: 'SHA-256', salt, iterations: count },
    from,
    { name: 'AES-GCM', length: 256 },
    false,
    [use],
  )
}
/** Seals codes by AES-256 in Galois/Counter Mode (NIST SP 800-38D): who lacks the passphrase reads nothing and changes nothing unseen. */
export async function sealCodes(codes: readonly KeptCode[], passphrase: string): Promise<SealedCodes> {
  const salt = crypto.getRandomValues(new Uint8Array(16))
  const iv = crypto.getRandomValues(new Uint8Array(12))
  const key = await keyOf(passphrase, salt, rounds, 'encrypt')
  const plain = new TextEncoder().encode(JSON.stringify(codes))
  const data = new Uint8Array(await crypto.subtle.encrypt({ name: 'AES-GCM', iv }, key, plain))
  return { salt: base64(salt), iv: base64(iv), rounds, data: base64(data) }
}
/** @throws DOMException where the passphrase is another, or something was changed */
export async function openCodes(sealed: SealedCodes, passphrase: string): Promise<KeptCode[]> {
  const key = await keyOf(passphrase, bytesOf(sealed.salt), sealed.rounds, 'decrypt')
  const plain = await crypto.subtle.decrypt({ name: 'AES-GCM', iv: bytesOf(sealed.iv) }, key, bytesOf(sealed.data))
  return JSON.parse(new TextDecoder().decode(plain)) as KeptCode[]
}

/** What the file does by itself: the same steps as `openCodes`, in the words of any browser, and every code shown as text. */
const opener = `const form=document.getElementById('open'),list=document.getElementById('codes'),said=document.getElementById('said'),sealed=JSON.parse(form.dataset.sealed),bytes=t=>Uint8Array.from(atob(t),c=>c.charCodeAt(0));form.onsubmit=async e=>{e.preventDefault();said.textContent='Opening \\u2026';list.replaceChildren();try{const typed=form.elements.passphrase.value.toUpperCase().replace(/[^A-Z0-9]/g,'');if(!crypto.subtle){said.textContent='This browser does not open it. Try another one.';return}const from=await crypto.subtle.importKey('raw',new TextEncoder().encode(typed),'PBKDF2',false,['deriveKey']);const key=await crypto.subtle.deriveKey({name:'PBKDF2',hash:'SHA-256',salt:bytes(sealed.salt),iterations:sealed.rounds},from,{name:'AES-GCM',length:256},false,['decrypt']);const plain=await crypto.subtle.decrypt({name:'AES-GCM',iv:bytes(sealed.iv)},key,bytes(sealed.data));for(const one of JSON.parse(new TextDecoder().decode(plain))){const item=document.createElement('li'),name=document.createElement('b'),code=document.createElement('p');name.textContent=one.name||one.serial;code.textContent=one.code;code.className='code';item.append(name,' '+[one.where,one.serial].filter(Boolean).join(', '),code);list.append(item)}said.textContent='';form.reset()}catch{said.textContent='That is not the passphrase of this file.'}}`

/**
 * The file of a home with its codes in it, sealed: it asks for the passphrase, and still loads nothing.
 * @param html as `homeHtml` makes it
 * @throws Error where it is another file
 */
export async function withSealedCodes(html: string, sealed: SealedCodes): Promise<string> {
  const digest = base64(new Uint8Array(await crypto.subtle.digest('SHA-256', new TextEncoder().encode(opener))))
  const section = `<section><h2>Setup codes</h2><form id="open" data-sealed="${svgText(JSON.stringify(sealed))}"><p><label for="passphrase">The passphrase of this file</label><br><input id="passphrase" name="passphrase" autocomplete="off" autocapitalize="characters" spellcheck="false"> <button>Show them</button></p></form><noscript><p>This viewer cannot open them: open the file in a browser.</p></noscript><p id="said" role="status"></p><ul id="codes"></ul></section><script>${opener}</script></body>`
  const changes = [
    [codesNotHere, 'Setup codes are in this file, sealed: it opens them with its passphrase.'],
    ["style-src 'unsafe-inline'", `style-src 'unsafe-inline'; script-src 'sha256-${digest}'; form-action 'none'`],
    [
      '</style>',
      'input,button{font:inherit;min-height:44px;padding:.3em .6em}.code{font-family:monospace;font-size:1.3rem;margin:.1em 0;overflow-wrap:anywhere}</style>',
    ],
    ['</body>', section],
  ] as const
  return changes.reduce((text, [from, to]) => {
    const parts = text.split(from)
    if (parts.length !== 2) throw new Error('This is not the file of a home.')
    return parts.join(to)
  }, html)
}
