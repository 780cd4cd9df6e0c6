# frozen_string_literal: true

require "yaml"

module Vestry
  module Records
    # How tables from elsewhere name columns, units, months and things (words.yml).
    module TableWords
      FILE = File.join(__dir__, "words.yml")
      BOOK = Core::Reckoning.deep_freeze(YAML.safe_load_file(FILE))
      # A heading that is nothing but one of these says what is measured and in what.
      WARMTHS = %w[celsius fahrenheit kelvin].freeze
      private_constant :FILE, :BOOK, :WARMTHS

      module_function

      # In small letters without accents, dots, dashes and brackets.
      def plain(text)
        text.to_s.scrub("?").unicode_normalize(:nfd).gsub(/\p{Mn}/, "").downcase.gsub("ß", "ss")
          .gsub(/[^[:alnum:]]+/, " ").strip
      end

      # @return [String, nil] the unit that a word names
      def unit(text) = UNITS[text.to_s.strip.downcase.delete("°").squeeze(" ")]

      # A heading as what it names and the unit it says: "Umfang (cm)" as "umfang" and "cm".
      #
      # @return [Array(String, String), Array(String, nil)]
      def heading(text)
        said = text.to_s.scrub("?").strip
        bracketed = said[/[(\[]([^)\]]+)[)\]]\s*\z/, 1]
        return [plain(said.sub(/[(\[][^)\]]+[)\]]\s*\z/, "")), unit(bracketed)] if bracketed && unit(bracketed)

        return [plain(said), unit(said)] if WARMTHS.include?(said.downcase)

        words = said.split(/[\s_,]+/)
        last = unit(words.last) if words.size > 1
        last ? [plain(words[0..-2].join(" ")), last] : [plain(said), nil]
      end

      # @return [Array<String>] what a column may be called, plainly
      def names(field) = NAMES.fetch(field) { [own(field)] }

      # What a field is called without the unit at its end.
      def own(field) = plain(field.sub(/_(mm|m|c|ms|deg)\z/, ""))

      # @return [String, nil] which of some words another language's word means, or one of more than one, or a method's
      #   name as it is said here
      def word(text, choices)
        said = plain(text)
        forms = [said, said.sub(/ies\z/, "y"), said.delete_suffix("es"), said.delete_suffix("s"),
                 said.sub(/ (graft|grafting|bud|budding)\z/, "")].uniq
        forms.each do |form|
          found = choices.find { |choice| plain(choice) == form } || (choices & WORDS.fetch(form, [])).first
          return found if found
        end
        nil
      end

      # @return [Hash{String=>Float}] what one of each unit is worth
      def worth(measure) = BOOK["units"].fetch(measure)

      # What is added to a figure before it is turned into what is kept.
      def before(unit) = BOOK["before"].fetch(unit, 0)

      # Whether a cell stands for "not known"; a figure does only where what is measured can never be that.
      def unknown?(cell, measure)
        said = cell.strip.downcase
        BOOK["unknown"].include?(said) && (said.match?(/[a-z]|\A[^\d]*\z/) || %w[warmth rain wind].include?(measure))
      end

      # @return [Integer, nil] 1 to 12
      def month(text)
        said = plain(text)
        BOOK["months"].index { |names| names.any? { |name| said.start_with?(name) } }&.+(1)
      end

      UNITS = BOOK["unit_names"].flat_map { |unit, names| names.map { |name| [name.delete("°"), unit] } }.to_h.freeze
      NAMES = BOOK["headings"].to_h do |field, names|
        [field, [own(field), *names.map { |name| plain(name) }].uniq]
      end.freeze
      WORDS = BOOK["words"].each_with_object({}) do |(word, names), all|
        names.each { |name| (all[plain(name)] ||= []) << word }
      end.freeze
    end
  end
end
