# frozen_string_literal: true

require "time"

module Vestry
  module Outside
    # Asks a store's thermometer for what it measured. Which address answers is a setting; where
    # there is none, readings are brought in by hand.
    module Thermometer
      Silent = HttpAnswer::Silent

      module_function

      def address = Settings.standins && "#{Settings.standins}/thermometer"

      # @return [Array<Array(Time, Float)>]
      # @raise [Silent] in words, when it does not answer or cannot be understood
      def readings(name, from, to)
        HttpAnswer.json("The thermometer", "#{address}/#{URI.encode_www_form_component(name)}",
                    { from: from.utc.iso8601, to: to.utc.iso8601 })
              .map { |each| [Time.iso8601(each.fetch("at")), Float(each.fetch("celsius"))] }
      rescue KeyError, ArgumentError, TypeError, NoMethodError
        raise Silent, "What the thermometer says cannot be read."
      end
    end
  end
end
