# frozen_string_literal: true

module Vestry
  module Core
    module Repair
      # A wound's margins as they are called out round the trunk, a reading a line or between commas:
      #
      #   n 100 to 320
      #   ne 9 cm to 30 cm
      #   e closed
      #   200 -40 to 260
      #
      # Heights above the soil, below it with a minus; +closed+ where bark still lives.
      module MarginRun
        # One reading that could not be taken: which, and what is allowed.
        Fault = Struct.new(:number, :text, :why, keyword_init: true)
        # What was read: +readings+, +faults+ that keep it from being kept, +doubts+ that are asked about.
        Run = Struct.new(:readings, :faults, :doubts, keyword_init: true) do
          def ok? = faults.empty?
        end

        BETWEEN = /\s+(?:to|until)\s+|\s*(?:–|—|\.\.)\s*|(?<=[\da-z"'″′½¼¾])\s*-\s*(?=[\d½¼¾])/i

        module_function

        # @param text [String]
        # @param units [String] for bare numbers
        # @return [Run] +readings+ for the bridge reckoning, in order of bearing
        def read(text, units: "metric")
          faults = []
          lines = text.to_s.split(/[\n;]|,(?!\d)/).map(&:strip).reject(&:empty?)
          read = lines.each_with_index.filter_map do |line, i|
            reading(line, units).merge(number: i + 1, text: line)
          rescue BadInput => e
            faults << Fault.new(number: i + 1, text: line, why: e.allowed)
            nil
          end
          twice(read, faults)
          if faults.empty? && read.size < LEAST
            faults << Fault.new(number: 1, text: text.to_s.strip[0, 40],
                                why: "one reading says nothing of the other sides; call out at least #{LEAST}, " \
                                     "round the trunk")
          end
          Run.new(readings: close(read).map { |each| each.slice(:bearing_deg, :low_mm,
              :high_mm) }.sort_by { |each| each[:bearing_deg] }
                  .freeze, faults: faults.sort_by(&:number).freeze)
        end

        LEAST = 3
        # Two heights as they are called out, by the units of bare numbers.
        EXAMPLE = { "metric" => "80 to 240", "imperial" => "3 1/4 to 9 1/2" }.freeze

        # A run as it would be typed.
        #
        # @param readings [Array<Hash>]
        # @return [String]
        def say(readings, units = "metric")
          readings.map do |each|
            where = Survey::LimbLine::COMPASS.key((each[:bearing_deg].to_f % 1).zero? ?
                                                  each[:bearing_deg].to_i : each[:bearing_deg].to_f) ||
                                                    format("%g", each[:bearing_deg])
            gap = each[:high_mm].to_f - each[:low_mm].to_f
            apart = gap.positive? ? "#{height(each[:low_mm], units)} to #{height(each[:high_mm], units)}" : "closed"
            "#{where} #{apart}"
          end.join("\n")
        end

        def height(mm, units) = units == "imperial" ? Measure.say(mm, units).delete_suffix(" in") : mm.round.to_s

        def reading(line, units)
          where, rest = line.split(/\s+/, 2)
          bearing, said = bearing(where.to_s), rest.to_s.strip
          if said.empty?
            raise BadInput.new("margins",
                               "wants two heights after #{where}, such as #{EXAMPLE.fetch(units)}, or closed")
          end
          return { bearing_deg: bearing, closed: true } if said.match?(/\A(closed|bark|alive)\z/i)

          low, high = ends(said, units).map { |height| Measure.parse(height, units: units).mm }
          if high < low
            raise BadInput.new("margins",
                               "the upper margin (#{Measure.say(high, units)}) is under the lower " \
                               "(#{Measure.say(low, units)}); the lower comes first")
          end

          { bearing_deg: bearing, low_mm: low, high_mm: high }
        end

        # The two heights as they are written, the lower with its sign.
        def ends(said, units)
          lower, upper = said.delete_prefix("-").split(BETWEEN, 2)
          return ["#{'-' if said.start_with?('-')}#{lower}", upper] if upper

          raise BadInput.new("margins",
                             "“#{said[0, 30]}” is not two heights; write #{EXAMPLE.fetch(units)}, or closed")
        end

        def bearing(word)
          named = Survey::LimbLine::COMPASS[word.downcase]
          return named.to_f if named

          degrees = Float(word.delete("°"), exception: false)
          return degrees % 360 if degrees&.between?(0, 360)

          raise BadInput.new("margins",
                             "a reading begins with a compass point such as NE, or degrees from 0 to 360; " \
                             "“#{word[0, 20]}” is neither")
        end

        def twice(read, faults)
          read.group_by { |each| each[:bearing_deg] }.each_value do |same|
            next if same.size == 1

            faults << Fault.new(number: same.last[:number], text: same.last[:text],
                                why: "the bearing #{format('%g', same.last[:bearing_deg])}° was called out before, " \
                                     "in reading #{same.first[:number]}; say which holds")
          end
        end

        # Where bark lives the margins meet, half way up the wound beside it.
        def close(read)
          open = read.reject { |each| each[:closed] }
          read.map do |each|
            next each unless each[:closed]

            beside = open.min_by do |other|
              [(other[:bearing_deg] - each[:bearing_deg]) % 360, (each[:bearing_deg] - other[:bearing_deg]) % 360].min
            end
            middle = beside ? (beside[:low_mm] + beside[:high_mm]) / 2 : 0.0
            each.merge(low_mm: middle, high_mm: middle)
          end
        end
        private_class_method :height, :reading, :bearing, :twice, :close
      end
    end
  end
end
