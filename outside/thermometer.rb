# frozen_string_literal: true

require "json"
require "net/http"
require "time"
require "uri"

module Vestry
  module Outside
    # Asks a store's thermometer for what it measured. Which address answers is a setting; where
    # there is none, readings are brought in by hand.
    module Thermometer
      class Silent < StandardError; end

      OPEN = 2
      READ = 5
      MOST_BYTES = 2 * 1024 * 1024

      module_function

      def address = Settings.standins && "#{Settings.standins}/thermometer"

      # @return [Array<Array(Time, Float)>]
      # @raise [Silent] in words, when it does not answer or cannot be understood
      def readings(name, from, to)
        uri = URI("#{address}/#{URI.encode_www_form_component(name)}?#{URI.encode_www_form(from: from.utc.iso8601, to: to.utc.iso8601)}")
        answer = Net::HTTP.start(uri.host, uri.port, use_ssl: uri.scheme == "https", open_timeout: OPEN, read_timeout: READ) { |http| http.get(uri.request_uri) }
        raise Silent, "The thermometer answered #{answer.code}." unless answer.is_a?(Net::HTTPSuccess)
        raise Silent, "The thermometer answered too much at once." if answer.body.bytesize > MOST_BYTES

        JSON.parse(answer.body).map { |each| [Time.iso8601(each.fetch("at")), Float(each.fetch("celsius"))] }
      rescue SystemCallError, SocketError, Timeout::Error, EOFError
        raise Silent, "The thermometer does not answer."
      rescue JSON::ParserError, KeyError, ArgumentError, TypeError
        raise Silent, "What the thermometer says cannot be read."
      end
    end
  end
end
