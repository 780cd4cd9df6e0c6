# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # A latitude, a longitude or a bearing as people write it.
      module Place
        NUMBER = /\d+(?:[.,]\d+)?/
        MINUTES = /(?<min>#{NUMBER})\s*['′’]?(?:\s*(?<sec>#{NUMBER})\s*["″”]?)?/
        PARTS = /\A(?<sign>[-−+])?\s*(?<deg>#{NUMBER})\s*°?(?:\s*#{MINUTES})?\s*(?<side>[NSEW])?\z/i

        HEIGHT = /\A(?<n>[-−+]?[\d., ]*\d)\s*(?<unit>m|metres?|meters?|ft|feet|foot|['′’])?\.?\z/i

        module_function

        # 50.6, -50,6, 52 06 N, 2°54'30" W: in degrees.
        #
        # @param text [String]
        # @param most [Integer] 90 for a latitude, 180 for a longitude
        # @return [Float, nil] degrees, south and west below 0; nil where it cannot be read
        def degrees(text, most:)
          parts = PARTS.match(text.to_s.strip) or return nil
          degrees, minutes, seconds = %w[deg min sec].map { |name| parts[name].to_s.tr(",", ".").to_f }
          return nil unless minutes < 60 && seconds < 60 && suits?(parts, most)

          value = degrees + minutes / 60 + seconds / 3600
          value = -value if parts["sign"].to_s.match?(/[-−]/) || parts["side"].to_s.match?(/[SW]/i)
          value if value.abs <= most
        end

        # SW, NNE, south, north-east, 225, 22,5: in degrees from north.
        #
        # @return [Float, nil] 0 to 360; nil where it cannot be read
        def bearing(text)
          named = LimbLine::COMPASS[DictatedLine.compass(text.to_s.strip.downcase)]
          return named.to_f if named

          Values.number(text.to_s.delete("°"))&.then { |degrees| degrees if degrees.between?(0, 360) }
        end

        # 120, 120 m, 1 800 m, -3,5 m, 5,900 ft, 400 feet: above the sea, in m.
        #
        # @return [Float, nil] nil where it cannot be read
        def height(text)
          parts = HEIGHT.match(text.to_s.strip) or return nil
          digits = parts["n"].gsub(/[ ,](?=\d{3}(?!\d))/, "").tr(",−", ".-")
          metres = Float(digits, exception: false) or return nil
          parts["unit"].to_s.match?(/\Af|['′’]/i) ? metres * Measure::FOOT / 1000 : metres
        end

        # A side belongs to its own axis, and does not stand beside a sign.
        def suits?(parts, most)
          side = parts["side"] or return true
          parts["sign"].nil? && (most == 90 ? "NS" : "EW").include?(side.upcase)
        end
        private_class_method :suits?
      end
    end
  end
end
