# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # A limb line as a phone writes down what was said, in the words of a limb line: "Limb H, north east, girth two
      # hundred and twenty millimetres, long 2m40." becomes "H ne girth 220 millimetres long 2.40m".
      module DictatedLine
        POINTS = { "north" => "n", "south" => "s", "east" => "e", "west" => "w" }.freeze
        POINT = /(?:north|south|east|west)/
        ONES = %w[zero one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen
                  seventeen eighteen nineteen].each_with_index.to_h.freeze
        TENS = %w[twenty thirty forty fifty sixty seventy eighty ninety].each_with_index
          .to_h { |word, i| [word, (i + 2) * 10] }.freeze
        SCALES = { "hundred" => 100, "thousand" => 1000 }.freeze
        NUMBER_WORDS = (ONES.keys + TENS.keys + SCALES.keys).freeze
        # Other words for those of a limb line.
        SAME = { "length" => "long", "circumference" => "girth", "round" => "girth", "thick" => "across",
                 "thickness" => "across", "diameter" => "across", "facing" => "points", "pointing" => "points",
                 "bearing" => "points", "rise" => "up", "rising" => "up", "fork" => "from", "off" => "on" }.freeze
        SILENT = %w[degrees degree at is and].freeze

        module_function

        # @param line [String] as it was typed or dictated
        # @return [String] the same, as LimbLine reads it
        def plain(line)
          # What is said of damage is kept in its own words.
          said, damage = line.split(/\b(?=damage\b)/i, 2)
          words = numbers(compass(unpunctuated(said.sub(/\A\s*limb\s+/i, ""))).split)
          words = words.map { |word| SAME.fetch(word.downcase, word) } - SILENT
          [joined_tag(words).join(" "), damage].compact.join(" ")
        end

        # Without the points and commas of sentences; "2m40" is 2.40 m.
        def unpunctuated(text)
          text.gsub(/(\d)m\s?(\d\d)\b(?!\s*(?:mm|cm))/i, '\1.\2m').gsub(/[.,;:](?=\s|\z)/, " ")
        end

        # "north east", "north-east" and "north north east" as points of the compass.
        def compass(text)
          text.gsub(/\b#{POINT}(?:[\s-]*#{POINT}){0,2}\b/i) do |said|
            said.downcase.scan(POINT).map { |word| POINTS[word] }.join
          end
        end

        # Numbers that stand in words, each as digits.
        #
        # @param words [Array<String>]
        def numbers(words)
          out = []
          until words.empty?
            count = run(words)
            out << (count.zero? ? words.first : value(words.first(count)))
            words = words.drop([count, 1].max)
          end
          out
        end

        # How many words from the first on say one number.
        def run(words)
          return 0 unless number?(words.first)

          count = 1
          while (word = words[count]&.downcase)
            inside = word == "and" && scaled?(words, count) && number?(words[count + 1])
            point = word == "point" && number?(words[count + 1])
            break unless number?(word) || inside || point

            count += 1
          end
          count
        end

        def number?(word) = word && word.downcase.split("-").all? { |part| NUMBER_WORDS.include?(part) }
        # "and" belongs to a number after a hundred or a thousand alone.
        def scaled?(words, at) = SCALES.key?(words[at - 1].downcase)

        def value(words)
          whole, tenths = words.join(" ").downcase.split(/\s+point\s+/, 2)
          digits = tenths && tenths.split.map { |word| ONES[word] || word }.join
          [total(whole.tr("-", " ").split - ["and"]), digits].compact.join(".")
        end

        def total(words)
          sum = part = 0
          words.each do |word|
            case word
            when "thousand" then sum, part = sum + [part, 1].max * 1000, 0
            when "hundred" then part = [part, 1].max * 100
            else part += ONES[word] || TENS[word]
            end
          end
          sum + part
        end

        # "B 1 on B" is the branch B1.
        def joined_tag(words)
          tag, number, on = words
          branch = tag&.match?(/\A[[:alpha:]]\z/) && number&.to_s&.match?(/\A\d\z/) && on&.downcase == "on"
          branch ? ["#{tag}#{number}", *words.drop(2)] : words
        end
        private_class_method :unpunctuated, :numbers, :run, :number?, :scaled?, :value, :total, :joined_tag
      end
    end
  end
end
