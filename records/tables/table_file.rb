# frozen_string_literal: true

require "csv"

module Vestry
  module Records
    # One table's lines from a CSV, to be added to an orchard that stands: rows point at others by what
    # people call them, as in an orchard's own files. Each line's fate is told; then all are written at
    # once. Reading leaves nothing behind.
    class TableFile
      # Photos, and what was measured in them, come with a whole orchard alone.
      ALL = (Archive::Tables.all.map(&:name) - %w[photos picture_measures]).freeze
      # Those that have no simpler layout beside their own.
      KINDS = (ALL - %w[trees limbs]).freeze
      Unreadable = FileText::Unreadable
      LineFate = Struct.new(:line, :label, :fault, keyword_init: true)
      MOST_LINES = 200_000
      # So many lines are tried one by one to find which of them the database refuses.
      MOST_TRIED = 5_000

      attr_reader :table

      # Whether a file is to be read so: any of these tables, and trees and limbs that lie as they are
      # written here, with a key.
      def self.reads?(kind, bytes)
        return KINDS.include?(kind) unless %w[trees limbs].include?(kind)

        text = FileText.of(bytes)
        FileText.heading(text).split(FileText.delimiter(text)).map { |name| name.strip.delete('"') }.include?("key")
      rescue FileText::Unreadable
        false
      end

      def initialize(orchard, kind, bytes, import: nil)
        @orchard = orchard
        @table = Archive::Tables.named(kind)
        @bytes = bytes
        @import = import
      end

      # What a column says, for people: its name, and what may stand there.
      def self.columns(kind)
        table = Archive::Tables.named(kind)
        needed = Archive::Tables.schema(table)["required"]
        table.columns.keys.reject { |column| UNASKED.include?(column) }.map do |column|
          choices = Archive::Choices.of(table)[column]
          words = { "key" => "as in #{table.refs[column]}", "yes or no" => "yes or no", "day" => "a day",
                    "moment" => "a moment", "whole" => "whole" }[table.columns[column]]
          "#{table.header(column)}#{' (needed)' if needed.include?(table.header(column))}" \
          "#{" (#{choices ? choices.join(', ') : words})" if choices || words}"
        end
      end
      UNASKED = %i[version created_at client_key hidden_at].freeze

      # @return [Array<LineFate>]
      # @raise [Unreadable]
      def fates
        @fates ||= tried do
          faults_by_line.then do |wrong|
            labels.map { |line, label| LineFate.new(line: line, label: label, fault: wrong[line]) }
          end
        end
      end

      def faults = fates.select(&:fault)

      # @yield [Integer] how many lines are through: a third when all are laid beside, two when all are
      #   found good
      # @return [Array<Integer>, Array<String>] the new rows, by id or as JSON
      # @raise [Unreadable]
      def write
        DB.transaction(savepoint: true) do
          adding = Archive::Adding.new(@orchard, @table, text, by: by)
          adding.stage
          lines = adding.labels.size
          yield lines / 3 if block_given?
          if adding.faults.any?
            raise Unreadable, adding.faults.first(1).map { |line, words| "line #{line}: #{words}" }.first
          end

          yield lines * 2 / 3 if block_given?
          adding.write.tap do |written|
            @table.id? ? note(written) : keep(written)
            Places.settle(@orchard) if @table.name == "trees"
          end
        ensure
          adding&.clear
        end
      rescue Archive::Unreadable, Sequel::ConstraintViolation => e
        raise Unreadable, Archive::Adding.plain(e)
      end

      private

      def by = @import ? @import.by : "a file"

      def text = @text ||= FileText.of(@bytes)

      def tried
        answer = nil
        DB.transaction(rollback: :always, savepoint: true) do
          @adding = Archive::Adding.new(@orchard, @table, text, by: by)
          @adding.stage
          answer = yield
        end
        answer
      rescue Archive::Unreadable => e
        raise(Unreadable, e.message.sub(/\A#{@table.name}\.csv /, "").then { |words| words[0].upcase + words[1..] })
      end

      def labels
        rows = @adding.labels
        raise Unreadable, "It has a heading and no lines." if rows.empty?
        raise Unreadable, "It has more than #{MOST_LINES} lines; bring it in in parts." if rows.size > MOST_LINES

        rows
      end

      def faults_by_line
        found = @adding.faults
        found.empty? ? @adding.refused(most: MOST_TRIED) : found
      end

      # History of each new row, and which file it came from.
      def note(ids)
        return if ids.empty?

        DB.run("INSERT INTO history (orchard_id, table_name, row_id, action, after, who, why) SELECT orchard_id, " \
               "'#{@table.table}', id, 'add', jsonb_strip_nulls(to_jsonb(t)) - 'version' - 'created_at' - " \
               "'client_key', #{DB.literal(by)}, " \
               "#{DB.literal(@import ? "from the file #{@import.file_name}" : nil)} FROM #{@table.table} t WHERE id " \
               "IN (#{ids.join(', ')}) ORDER BY id")
        DB[:import_rows].import(%i[import_id row_id], ids.map { |id| [@import.id, id] }) if @import
      end

      # What was written where rows have no number, to know it again.
      def keep(rows)
        if @import
          rows.each_slice(1000) do |some|
            DB[:import_lines].import(%i[import_id row], some.map { |row| [@import.id, Sequel.cast(row, :jsonb)] })
          end
        end
      end
    end
  end
end
