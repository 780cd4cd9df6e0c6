# frozen_string_literal: true

require "json"
require "net/http"
require "openssl"
require "zlib"
require "uri"

module Vestry
  module Outside
    # Asks a service over HTTP for JSON: patiently, with a limit on time and size, and in words when
    # it fails.
    module HttpJson
      class Silent < StandardError; end
      # To ask again at once would be of no use: it hangs, or cannot be trusted.
      class Hopeless < Silent; end

      OPEN = 2
      READ = 5
      MOST_BYTES = 2 * 1024 * 1024
      TRIES = 3

      module_function

      # @param name [String] what is asked, for saying that it is silent
      # @param wait [Float] seconds before the second try, doubled for each after it
      # @return [Object] what the JSON holds
      # @raise [Silent]
      def json(name, address, query, wait = 0.2)
        tries = 0
        begin
          tries += 1
          once(name, address, query)
        rescue Hopeless
          raise
        rescue Silent
          raise if tries >= TRIES

          Kernel.sleep(wait * 2**(tries - 1))
          retry
        end
      end

      def once(name, address, query)
        uri = URI("#{address}?#{URI.encode_www_form(query)}")
        answer = Net::HTTP.start(uri.host, uri.port, use_ssl: uri.scheme == "https", open_timeout: OPEN,
                                 read_timeout: READ, max_retries: 0) do |http|
          http.get(uri.request_uri)
        end
        unless answer.is_a?(Net::HTTPSuccess)
          raise Silent, "#{name} has trouble of its own just now (it says #{answer.code})."
        end
        raise Silent, "#{name} answered too much at once." if answer.body.bytesize > MOST_BYTES

        JSON.parse(answer.body.to_s)
      rescue OpenSSL::SSL::SSLError
        raise Hopeless, "#{name} cannot be trusted: its certificate is not valid."
      rescue Timeout::Error
        raise Hopeless, "#{name} does not answer."
      rescue SystemCallError, SocketError, IOError, Net::HTTPBadResponse, Net::HTTPHeaderSyntaxError,
             Net::ProtocolError, Zlib::Error
        raise Silent, "#{name} does not answer."
      rescue URI::InvalidURIError
        raise Silent, "#{name} has no address that can be asked."
      rescue JSON::ParserError
        raise Silent, "What #{name.sub(/\AThe/, 'the')} says cannot be read."
      end
    end
  end
end
