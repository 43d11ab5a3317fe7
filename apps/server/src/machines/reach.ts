import { Inject, Injectable } from "@nestjs/common";
import { lookup } from "node:dns/promises";
import { BlockList, isIP } from "node:net";
import { Settings } from "../settings";

/** A machine is not where this program may call. */
export class NotReachable extends Error {}

/** A name as the Internet has it (RFC 1123), in letters, digits, dashes and dots. */
const NAME = /^(?=.{1,200}$)[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?(\.[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?)*$/i;

/** Whether a text is an address or a name, without port, path or anything else. */
export const isHost = (host: string): boolean => isIP(host) > 0 || NAME.test(host);

/**
 * Which addresses machines may have: the program calls what somebody typed, and must not become a way into the networks
 * that it stands in. A name is looked up once, and the very address that was looked at is called.
 */
@Injectable()
export class MachineReach {
  private readonly allowed = new BlockList();
  private readonly words: string;

  constructor(@Inject(Settings) { machineNetworks }: Settings) {
    this.words = machineNetworks.join(", ");
    for (const network of machineNetworks) {
      const [address, bits] = network.split("/");
      const family = isIP(address);
      const most = family === 6 ? 128 : 32;
      const prefix = bits === undefined ? most : Number(bits);
      if (family === 0 || !(Number.isInteger(prefix) && prefix >= 0 && prefix <= most))
        throw new Error(
          `HARDLINE_MACHINE_NETWORKS has ${JSON.stringify(network)}; allowed: an address with how many bits of it count, such as 192.168.7.0/24`,
        );
      this.allowed.addSubnet(address, prefix, family === 6 ? "ipv6" : "ipv4");
    }
  }

  /** The address to call. @throws NotReachable that says which it is, and which are allowed */
  async addressOf(host: string): Promise<string> {
    if (!isHost(host))
      throw new NotReachable(`${JSON.stringify(host.slice(0, 80))} is no name and no address`);
    const address = isIP(host) ? host : await this.lookedUp(host);
    if (this.allowed.check(address, isIP(address) === 6 ? "ipv6" : "ipv4")) return address;
    const which = address === host ? host : `${host} (${address})`;
    throw new NotReachable(
      `${which} is not where machines may be: ${this.words}. HARDLINE_MACHINE_NETWORKS says where`,
    );
  }

  private async lookedUp(host: string): Promise<string> {
    try {
      return (await lookup(host)).address;
    } catch {
      throw new NotReachable(`${host} is not known here`);
    }
  }
}
