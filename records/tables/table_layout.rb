# frozen_string_literal: true

module Vestry
  module Records
    # How a table from elsewhere is to be read: what each column holds and in what unit, in which order days are
    # written, what holds for every line, and what its words mean. It is guessed from the table, and completed by hand.
    class TableLayout
      ORDERS = %w[ymd dmy mdy].freeze
      # So many of a column's words are asked about.
      MOST_WORDS = 60

      attr_reader :columns, :order, :constants, :words, :fields

      # @param facts [Hash] as JSON holds it: +columns+, a field and a unit or nothing for each; +order+ of days;
      #   +constants+ by field; +words+ by field
      # @param register [Array<String>] the varieties that are known
      def initialize(kind, facts, register: [])
        @fields = LayoutFields.of(kind, register: register)
        @kind = kind
        @columns = facts.fetch("columns", []).map do |column|
          column if column.is_a?(Hash) && @fields.key?(column["field"])
        end
        @order = facts["order"] if ORDERS.include?(facts["order"])
        @constants = facts.fetch("constants", {}).slice(*@fields.keys).reject { |_, said| said.to_s.strip.empty? }
        @words = facts.fetch("words", {}).slice(*@fields.keys)
      end

      def self.guess(kind, table) = new(kind, LayoutGuess.new(kind, table).facts)

      # As a file that waits to be matched is to be read.
      #
      # @param import [Import]
      def self.of(import, facts = import.layout.to_h)
        new(import.kind, facts, register: Variety.by_name(import.orchard).keys)
      end

      def facts = { "columns" => columns, "order" => order, "constants" => constants, "words" => words }

      # The column that holds a field.
      def place(field) = columns.index { |column| column && column["field"] == field }

      # Fields of it, with the column of each.
      #
      # @return [Hash{String=>Integer}]
      def places = columns.each_with_index.select(&:first).to_h { |column, i| [column["field"], i] }

      def unit(field) = columns[place(field)]["unit"]
      def field(name) = @fields.fetch(name)

      # What is still to be told before the table can be read, as what to say of each.
      #
      # @return [Array<String>]
      def open_questions(table)
        [*twice, *missing, *unmeasured(table), *([ORDER] if undated?(table)), *wordless(table)]
      end
      ORDER = "Say in which order its days are written: 03/04/2026 can be two days."

      # The words of a column that are not known, each asked about once.
      def unknown_words(table, name)
        choices, column = field(name).choices, place(name)
        return [] unless choices && column

        table.cells(column).uniq.reject { |said| said.empty? || TableWords.unknown?(said, nil) }
          .reject { |said| TableWords.word(said, choices) }.first(MOST_WORDS)
      end

      # What a word means here.
      def word(name, said)
        chosen = words.dig(name, said)
        return chosen if field(name).choices.include?(chosen)

        TableWords.word(said, field(name).choices)
      end

      private

      def has?(set) = set.all? { |name| place(name) || constants.key?(name) }

      def twice
        fields = columns.compact.map { |column| column["field"] }
        fields.tally.select { |_, count| count > 1 }.keys
          .map { |name| "Two columns are said to hold #{words_of(name)}." }
      end

      def missing
        LayoutFields.needed(@kind).reject { |sets| sets.any? { |set| has?(set) } }
          .map { |sets| "Say which column holds #{sets.map { |set| set.map { |name| words_of(name) }.join(' and ') }
            .join(', or ')}." }
      end

      def unmeasured(table)
        places.select { |name, column| field(name).measure && unit(name).nil? && !self_measured?(table, column) }
          .keys.map { |name| "Say in what unit its #{words_of(name)} is." }
      end

      # Whether every figure of a column says its own unit.
      def self_measured?(table, column)
        said = table.cells(column).reject(&:empty?)
        said.all? { |cell| TableWords.unit(cell[FigureReader::UNIT]) || TableWords.unknown?(cell, "warmth") }
      end

      def undated?(table)
        order.nil? && places.any? { |name, column| %w[day moment].include?(field(name).type) &&
          table.cells(column).any? { |cell| cell.match?(FigureReader::ORDERED) || cell.match?(FigureReader::COMPACT) } }
      end

      def wordless(table)
        places.keys.select { |name| field(name).choices }.flat_map do |name|
          (unknown_words(table, name) - words.fetch(name, {}).reject { |_, to| to.to_s.empty? }.keys).first(1)
            .map do |said|
              name == "variety" ? "Say which variety “#{said[0, 40]}” is, or write it into the register first." :
                "Say what “#{said[0, 40]}” is among #{words_of(name)}."
            end
        end
      end

      def words_of(name) = field(name).words
    end
  end
end
