// Sends what the microphone hears, first channel only, in blocks of samples.
class Recorder extends AudioWorkletProcessor {
  process(inputs) {
    const first = inputs[0]?.[0]
    if (first) this.port.postMessage(first.slice(0))
    return true
  }
}
registerProcessor('recorder', Recorder)
