import { CommissioningFlowType, QrPairingCodeCodec, VendorId } from '@matter/types'

/** A square code as the library of the open home standard writes it on a card. */
export const squareCode = (discriminator: number, passcode: number): string =>
  QrPairingCodeCodec.encode([
    {
      ...{ version: 0, vendorId: VendorId(0xfff1), productId: 0x8000, flowType: CommissioningFlowType.Standard },
      ...{ discriminator, passcode, discoveryCapabilities: { onIpNetwork: true }, tlvData: new Uint8Array() },
    } as never,
  ])
