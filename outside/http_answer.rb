# frozen_string_literal: true

require "json"
require "net/http"
require "openssl"
require "zlib"
require "uri"

module Vestry
  module Outside
    # Asks a service over HTTP: patiently, with a limit on time and size, and in words when it fails.
    module HttpAnswer
      class Silent < StandardError; end
      # To ask again at once would be of no use: it hangs, or cannot be trusted.
      class Hopeless < Silent; end

      OPEN = 2
      READ = 5
      # However slowly it comes, the whole answer.
      WHOLE = 20
      MOST_BYTES = 2 * 1024 * 1024
      TRIES = 3

      module_function

      # @param name [String] what is asked, for saying that it is silent
      # @param wait [Float] seconds before the second try, doubled for each after it
      # @return [Object] what the JSON holds
      # @raise [Silent]
      def json(name, address, query, wait = 0.2)
        patiently(wait) { parsed(name, once(name, URI("#{address}?#{URI.encode_www_form(query)}"))) }
      rescue URI::InvalidURIError
        raise Silent, "#{name} has no address that can be asked."
      end

      # The text at an address that an orchard names, which is asked only where it may be.
      #
      # @return [String] as it came
      # @raise [Silent]
      def text(name, address, wait = 0.2)
        uri = URI(address)
        raise Hopeless, "#{name} has no address that can be asked." unless uri.is_a?(URI::HTTP) && uri.host

        patiently(wait) { once(name, uri, guarded: true) }
      rescue URI::InvalidURIError
        raise Silent, "#{name} has no address that can be asked."
      end

      # @return [Object] what the JSON holds
      # @raise [Silent]
      def parsed(name, text)
        JSON.parse(text)
      rescue JSON::ParserError
        raise Silent, "What #{name.sub(/\AThe/, 'the')} says cannot be read."
      end

      def patiently(wait)
        tries = 0
        begin
          tries += 1
          yield
        rescue Hopeless
          raise
        rescue Silent
          raise if tries >= TRIES

          Kernel.sleep(wait * 2**(tries - 1))
          retry
        end
      end

      def once(name, uri, guarded: false)
        line = Net::HTTP.new(uri.host, uri.port)
        if guarded
          line.ipaddr = NearAddresses.pick(uri.host) ||
                        raise(Hopeless, "#{name} lies within this network, where none is asked.")
        end
        line.use_ssl, line.open_timeout, line.read_timeout, line.max_retries = uri.scheme == "https", OPEN, READ, 0
        line.start { |http| http.request_get(uri.request_uri) { |answer| return body(name, answer) } }
      rescue OpenSSL::SSL::SSLError
        raise Hopeless, "#{name} cannot be trusted: its certificate is not valid."
      rescue Timeout::Error
        raise Hopeless, "#{name} does not answer."
      rescue SystemCallError, SocketError, IOError, Net::HTTPBadResponse, Net::HTTPHeaderSyntaxError,
             Net::ProtocolError, Zlib::Error
        raise Silent, "#{name} does not answer."
      end

      def body(name, answer)
        unless answer.is_a?(Net::HTTPSuccess)
          raise Silent, "#{name} has trouble of its own just now (it says #{answer.code})."
        end

        last = Process.clock_gettime(Process::CLOCK_MONOTONIC) + WHOLE
        text = +""
        answer.read_body do |part|
          text << part
          raise Silent, "#{name} answered too much at once." if text.bytesize > MOST_BYTES
          raise Hopeless, "#{name} answers too slowly." if Process.clock_gettime(Process::CLOCK_MONOTONIC) > last
        end
        text
      end
      private_class_method :patiently, :once, :body
    end
  end
end
