<script lang="ts">
  /** Draws a barcode symbol. */
  import bwipjs from 'bwip-js/browser';
  let { symbol, text, wide = false }: { symbol: string; text: string; wide?: boolean } = $props();
  const kinds: Record<string, string> = {
    'gs1-datamatrix': 'gs1datamatrix',
    'gs1-128': 'gs1-128',
    code128: 'code128',
    qr: 'qrcode',
  };
  const svg = $derived.by(() => {
    try {
      const flat = symbol === 'code128' || symbol === 'gs1-128';
      return bwipjs.toSVG({
        bcid: kinds[symbol] ?? 'code128',
        text,
        ...(flat ? { height: 9, scale: 1 } : { scale: 1 }),
      });
    } catch {
      return '';
    }
  });
</script>

{#if svg}<img src="data:image/svg+xml;utf8,{encodeURIComponent(svg)}" alt="" class={symbol} class:wide />{:else}<span
    class="quiet none">no barcode can be drawn for this code</span
  >{/if}

<style>
  img {
    width: 52px;
    height: 52px;
    object-fit: contain;
    flex: none;
  }
  .none {
    width: 76px;
    font-size: 12px;
    line-height: 1.2;
    flex: none;
  }
  img.wide {
    width: 260px;
    height: 64px;
    background: #fff;
    padding: 4px;
  }
  .code128,
  .gs1-128 {
    width: 76px;
    height: 36px;
  }
</style>
