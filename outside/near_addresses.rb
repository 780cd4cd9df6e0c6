# frozen_string_literal: true

require "ipaddr"
require "socket"

module Vestry
  module Outside
    # Which address of a name may be asked where an orchard says whom to ask: none of this machine or its network,
    # unless whoever runs the installation names the host (VESTRY_NEAR_SERVICES).
    module NearAddresses
      NEAR = %w[0.0.0.0/8 10.0.0.0/8 100.64.0.0/10 127.0.0.0/8 169.254.0.0/16 172.16.0.0/12 192.0.0.0/24 192.168.0.0/16
                198.18.0.0/15 224.0.0.0/3 ::/127 64:ff9b::/96 100::/64 fc00::/7 fe80::/10 ff00::/8]
        .map { |range| IPAddr.new(range) }.freeze
      private_constant :NEAR

      module_function

      # @return [String, nil] the address to connect to, so that a name cannot mean another a moment later; nil where
      #   none of them may be asked
      # @raise [SocketError] where the name is not known
      def pick(host)
        found = Addrinfo.getaddrinfo(host.delete("[]"), nil, nil, :STREAM).map(&:ip_address)
        return found.first if Settings.near_services.include?(host)

        found.first if found.none? { |address| near?(address) }
      end

      def near?(address)
        ip = IPAddr.new(address.sub(/%.*/, ""))
        ip = ip.native if ip.ipv4_mapped?
        NEAR.any? { |range| range.family == ip.family && range.include?(ip) }
      end
      private_class_method :near?
    end
  end
end
