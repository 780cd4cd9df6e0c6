# frozen_string_literal: true

require "csv"
require "digest"

module Vestry
  module Records
    # A table from elsewhere, as it lies in its file: what parts its cells, which line is its heading, its cells with
    # their lines. What they mean is told by a TableLayout.
    class ForeignTable
      MOST_LINES = 300_000
      # In so many lines the heading is looked for: loggers say things of themselves before it.
      PREAMBLE = 40
      # A heading is words: at most this share of its cells are figures.
      MOST_FIGURES = 0.2
      private_constant :MOST_LINES, :PREAMBLE, :MOST_FIGURES

      # +headings+ as they stand; +units+ what a line of units below them says, by column.
      attr_reader :headings, :units

      # @param bytes [String] as they came
      # @raise [FileText::Unreadable]
      def initialize(bytes)
        text = FileText.of(bytes)
        @lines = parse(text)
        raise FileText::Unreadable, "It has more than #{MOST_LINES} lines; bring it in in parts." if
          @lines.size > MOST_LINES

        at = heading_at
        @headings = @lines.fetch(at).last.map { |cell| cell.to_s.strip }
        @units = units_of(at + 1)
        @rows = @lines.drop(at + (@units.empty? ? 1 : 2))
        raise FileText::Unreadable, "It has a heading and no lines." if @rows.empty?
      end

      # @return [Array<Array(Integer, Array<String>)>] each line's number in the file, and its cells
      attr_reader :rows

      # @return [Array<String>] the first cells of a column that say something
      def sample(column, most: 3) = cells(column).reject(&:empty?).first(most)

      # @return [Array<String>] all of a column's
      def cells(column) = rows.map { |_, cells| cells[column].to_s.strip }

      # The unit that its heading says, or the line below that.
      #
      # @return [String, nil]
      def unit_said(column) = TableWords.heading(headings[column]).last || units[column]

      # By which a table that looks like this one is known again.
      def fingerprint = Digest::SHA256.hexdigest(headings.map { |name| TableWords.plain(name) }.join("|"))

      private

      def parse(text)
        start = text.lines.first(PREAMBLE + 10)
        delimiter = FileText::DELIMITERS.max_by { |each| evenness(start, each) }
        # A sign for inches within a cell is no quotation.
        table = CSV.new(text, col_sep: delimiter, field_size_limit: FileText::LONGEST_CELL, liberal_parsing: true)
        lines = []
        while (cells = table.shift)
          lines << [table.lineno, cells] unless cells.all? { |cell| cell.to_s.strip.empty? }
        end
        lines
      rescue CSV::MalformedCSVError => e
        raise FileText::Unreadable, "Line #{e.line_number}: #{e.message.sub(/ in line \d+\.?\z/, '').downcase}."
      end

      # How many cells most lines have, parted so, and how many lines agree.
      def evenness(lines, delimiter)
        counts = lines.map { |line| line.count(delimiter) }.tally
        count, agreeing = counts.max_by { |size, many| [size.clamp(0, 1), many] }
        count.zero? ? 0 : agreeing * 1000 + count
      end

      def heading_at
        sizes = @lines.first(PREAMBLE * 2).map { |_, cells| cells.size }
        usual = sizes.tally.max_by { |size, many| [many, size] }&.first
        raise FileText::Unreadable, "It has no columns that can be told apart." if usual.nil? || usual < 2

        @lines.first(PREAMBLE).index { |_, cells| cells.size >= usual - 1 && words?(cells) } || 0
      end

      def words?(cells)
        said = cells.map { |cell| cell.to_s.strip }.reject(&:empty?)
        said.size > 1 && said.count { |cell| cell.match?(/\A[-+\d.,:\s]+\z/) } <= said.size * MOST_FIGURES
      end

      # A line of nothing but units.
      def units_of(at)
        cells = @lines[at]&.last.to_a.map { |cell| cell.to_s.strip.delete("()[]") }
        said = cells.each_with_index.reject { |cell, _| cell.empty? }
        return {} unless said.all? { |cell, _| TableWords.unit(cell) || cell.match?(%r{\A[[:alpha:]/-]+\z}) } &&
          said.any? { |cell, _| TableWords.unit(cell) }

        said.to_h { |cell, i| [i, TableWords.unit(cell)] }.compact
      end
    end
  end
end
