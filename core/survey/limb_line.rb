# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # A limb in one line, as it is said under the tree:
      #
      #   B ne girth 220 long 2400 from 1300 up 40 flat s
      #   B1 on B 60 across 48 x 40 long 1.2m from 700 up 30 crooked
      #   L leader girth 240 from 1800
      #
      # The tag stands first; every other word is optional but one thickness. Lengths are
      # written any way Measure reads. A word that cannot be read is named, and so is what is
      # allowed there; the other lines stand.
      module LimbLine
        COMPASS = { "n" => 0, "nne" => 22.5, "ne" => 45, "ene" => 67.5, "e" => 90, "ese" => 112.5, "se" => 135,
                    "sse" => 157.5,
                    "s" => 180, "ssw" => 202.5, "sw" => 225, "wsw" => 247.5, "w" => 270, "wnw" => 292.5, "nw" => 315,
                    "nnw" => 337.5 }.freeze
        LENGTHS = { "girth" => :girth_mm, "long" => :length_mm, "from" => :fork_mm }.freeze
        BARKS = %w[smooth rough].freeze
        STRAIGHT = { "straight" => "straight", "bent" => "bent", "crooked" => "crooked" }.freeze
        # Words that say all of it themselves.
        PLAIN = { **STRAIGHT.transform_values { |word| { straight: word }.freeze },
                  **BARKS.to_h { |word| [word, { bark: word }.freeze] },
                  "leader" => { leader: true }.freeze }.freeze
        WORDS = (LENGTHS.keys + STRAIGHT.keys + %w[across up points flat on leader bark damage]).freeze
        # One as it is said, by the units of bare numbers.
        EXAMPLE = { "metric" => "B ne girth 220 long 2400 from 1300 up 40 flat s",
                    "imperial" => "B ne girth 8 3/4 in long 8 ft from 4 ft 3 in up 40 flat s" }.freeze
        ORDINARY = "tag, bearing, girth, across, long, from, up, flat, on, leader, bark, straight, bent, " \
                   "crooked or damage"

        # What one line came to: +values+, or the +word+ that could not be read and +why+.
        Read = Struct.new(:number, :text, :tag, :values, :word, :why, keyword_init: true) do
          def ok? = why.nil?
        end

        # Reads several lines; empty ones are passed over.
        #
        # @param text [String]
        # @param units [String] metric or imperial, for bare numbers
        # @param taken [Array<String>] tags this tree has already
        # @return [Array<Read>]
        def self.read_all(text, units: "metric", taken: [])
          tags = taken.map(&:upcase)
          reads = text.to_s.lines.each_with_index.filter_map do |line, index|
            next if line.strip.empty?

            read = read(line.strip, units: units, number: index + 1)
            if read.tag && tags.include?(read.tag.upcase)
              read = Read.new(number: index + 1, text: read.text, tag: read.tag, word: read.tag,
                              why: "this tree has a limb #{read.tag} already")
            end
            tags << read.tag.upcase if read.ok?
            read
          end
          parents(reads, taken)
        end

        # Reads one line.
        #
        # @return [Read]
        def self.read(line, units: "metric", number: 1)
          tag, *words = DictatedLine.plain(line).split(/[\s,]+/)
          values = { tag: tag }
          check_tag(tag)
          take(words, values, units) until words.empty?
          check(values, units)
          Read.new(number: number, text: line, tag: tag, values: values)
        rescue Unread => e
          Read.new(number: number, text: line, tag: tag&.match?(/\A[[:alnum:]]{1,12}\z/) ? tag : nil, word: e.word,
                   why: e.message)
        end

        # The one word in a line that stopped it.
        class Unread < StandardError
          attr_reader :word

          def initialize(word, why)
            @word = word
            super(why)
          end
        end

        def self.check_tag(tag)
          if WORDS.include?(tag.to_s.downcase)
            raise Unread.new(tag, "is a word of these lines and no tag: a line begins with the limb's tag, such as B")
          end
          return if tag&.match?(/\A[[:alnum:]]{1,12}\z/)

          raise Unread.new(tag.to_s[0, 40], "is no tag: a line begins with the limb's, letters and digits, up to 12")
        end

        def self.take(words, values, units)
          word = words.shift
          name = word.downcase
          case name
          when *LENGTHS.keys
            before = words.dup
            values[LENGTHS[name]] = length(word, words, units)
            values[:typed] = before.first(before.size - words.size).join(" ") if name == "girth"
          when "across" then across(word, words, values, units)
          when "up" then values[:rise_deg] = number(word, words.shift, -90, 90)
          when "points" then values[:bearing_deg] = bearing(words.shift, word)
          when "flat" then values[:flat_deg] = bearing(words.shift, word)
          when "on" then values[:parent] = words.shift ||
            raise(Unread.new(word, "wants the tag of the limb it grows from after it"))
          when "bark" then bark(word, words, values, units)
          when "damage" then values[:damage] = damage(word, words)
          when *PLAIN.keys then values.update(PLAIN[name])
          else bare_bearing(word, values)
          end
        end

        # A bearing may stand without its word, once.
        def self.bare_bearing(word, values)
          if values.key?(:bearing_deg) || !bearing?(word)
            raise Unread.new(word, "is not a word of a limb line; #{ORDINARY}")
          end

          values[:bearing_deg] = bearing(word, word)
        end

        def self.damage(word, words)
          said = until_end(words)
          raise Unread.new(word, "wants a few words after it") if said.empty?

          said
        end

        MOST_WORDS = 5

        # The longest run of words that reads as a length, taken off the front.
        def self.length(word, words, units)
          raise Unread.new(word, "wants a length after it") if words.empty? || WORDS.include?(words.first.downcase)

          count = [MOST_WORDS, words.size].min.downto(1).find { |size| measure(words.first(size).join(" "), units) }
          unless count
            said = words.shift
            raise Unread.new("#{word} #{said}", why_not(said, units))
          end
          mm = measure(words.first(count).join(" "), units)
          said = words.shift(count).join(" ")
          unless mm.positive? || (word.downcase == "from" && mm.zero?)
            raise Unread.new("#{word} #{said}", "is above zero")
          end

          mm
        end

        def self.measure(said, units)
          Measure.parse(said, units: units).mm
        rescue BadInput
          nil
        end

        def self.why_not(said, units)
          Measure.parse(said, units: units)
        rescue BadInput => e
          e.allowed
        end

        def self.until_end(words) = words.slice!(0..).join(" ")

        def self.across(word, words, values, units)
          words.unshift(*words.shift.split(/(x|×)/i)) if words.first&.match?(/\d(x|×)\d/i)
          wide = length(word, words, units)
          narrow = wide
          if words.first&.match?(/\A(x|×|by)\z/i)
            words.shift
            narrow = length(word, words, units)
          end
          values[:narrow_mm], values[:wide_mm] = [wide, narrow].sort
        end

        def self.bark(word, words, values, units)
          if BARKS.include?(words.first&.downcase)
            values[:bark] = words.shift.downcase
          else
            values[:bark_mm] = length(word, words, units)
          end
        end

        def self.number(word, said, low, high)
          value = Float(said.to_s.delete("°"), exception: false)
          return value if value && value.between?(low, high)

          raise Unread.new([word, said].compact.join(" "), "wants degrees from #{low} to #{high} after it")
        end

        def self.bearing?(word) = COMPASS.key?(word.downcase) || word.match?(/\A\d+(\.\d+)?°?\z/)

        def self.bearing(said, word)
          named = COMPASS[said.to_s.downcase]
          return named.to_f if named

          value = Float(said.to_s.delete("°"), exception: false)
          unless value&.between?(0, 360)
            raise Unread.new([word, said].compact.uniq.join(" "),
                             "wants a compass point such as NE, or degrees from 0 to 360")
          end

          value % 360
        end

        def self.check(values, units)
          unless values[:girth_mm] || values[:wide_mm]
            raise Unread.new(values[:tag], "has no thickness; say girth 220 or across 70")
          end
          most = Section.too_much_bark(values)
          raise Unread.new("bark", "leaves no wood: below #{Measure.say_thin(most, units)}, half its thickness") if most
          return unless values[:leader] && (values[:parent] || values[:bearing_deg])

          raise Unread.new("leader", "is the trunk itself, and neither points anywhere nor grows on a limb")
        end

        # A branch must grow from a limb that is there, before it or already on the tree.
        def self.parents(reads, taken)
          known = taken.map(&:upcase)
          reads.map do |read|
            parent = read.ok? && read.values[:parent]
            if !parent || (known.include?(parent.upcase) && parent.upcase != read.tag.upcase)
              next read.tap { known << read.tag.upcase if read.ok? }
            end

            Read.new(number: read.number, text: read.text, tag: read.tag, word: "on #{parent}",
                     why: "there is no limb #{parent} on this tree yet; name it in a line before")
          end.each { |read| known << read.tag.upcase if read.ok? }
        end
        private_class_method :take, :damage, :bare_bearing, :until_end, :length, :measure, :why_not, :across, :bark,
                             :number, :bearing?, :bearing, :check, :check_tag, :parents
      end
    end
  end
end
