# frozen_string_literal: true

module Vestry
  module Records
    # What can be read off a table of how it is to be read.
    class LayoutGuess
      def initialize(kind, table)
        @kind = kind
        @table = table
        @fields = LayoutFields.of(kind)
      end

      # @return [Hash] as TableLayout takes it
      def facts
        columns = fields
        { "columns" => columns, "order" => order(columns), "constants" => {}, "words" => {} }
      end

      private

      # What each column holds: every field once, by its own name first, else by what others call it.
      def fields
        names = @table.headings.map { |heading| TableWords.heading(heading) }
        taken = {}
        [method(:own?), method(:called?)].each { |fits| take(names.map(&:first), taken, fits) }
        names.each_with_index.map do |(_, said), i|
          taken.key(i)&.then { |name| { "field" => name, "unit" => unit(name, i, said) } }
        end
      end

      def take(names, taken, fits)
        names.each_with_index do |said, i|
          next if taken.value?(i) || said.empty?

          field = @fields.keys.find { |name| !taken.key?(name) && fits.call(name, said) && suits?(name, i) }
          taken[field] = i if field
        end
      end

      def own?(field, said) = [TableWords.own(field), TableWords.plain(field)].include?(said)
      def called?(field, said) = TableWords.names(field).include?(said)

      # "Tree" is a tree's name where its cells are such; else it may be a kind or a number.
      def suits?(name, column)
        said = @table.sample(column, most: 20)
        case name
        when "row_number" then said.any? && said.all? { |cell| cell.match?(FigureReader::TREE) }
        when "limb_name" then said.any? && said.all? { |cell| cell.match?(FigureReader::LIMB) }
        when "at" then said.any? { |cell| cell.match?(/\d:\d/) && cell.match?(/\d[-\/.]\d/) }
        else @fields[name].type != "number" || said.empty? || written?(column, name) || said.any?(/\d/)
        end
      end

      def unit(name, column, said)
        measure = @fields[name].measure or return nil
        worth = TableWords.worth(measure)
        [said, @table.units[column], own_unit(name)].compact.find { |unit| worth.key?(unit) }.then do |unit|
          unit == own_unit(name) && said.nil? && @table.units[column].nil? ? own_if_named(name, column) : unit
        end
      end

      # A column called girth_mm says its unit; one called girth does not.
      def own_if_named(name, column)
        own_unit(name) if written?(column, name)
      end

      # Whether a heading is a field's name as it is written here.
      def written?(column, name) = @table.headings[column].to_s.downcase.strip == name

      def own_unit(name)
        { "celsius" => "c" }[name] || name[/_(mm|m|c|ms)\z/, 1]
      end

      def dated?(name) = %w[day moment].include?(@fields[name].type)

      # In which order days are written, where they tell.
      def order(columns)
        said = columns.each_with_index.select { |column, _| column && dated?(column["field"]) }
          .flat_map { |_, i| @table.cells(i) }.filter_map { |cell| FigureReader::ORDERED.match(cell) }
        return nil if said.empty?
        return "dmy" if said.any? { |match| match[1].to_i > 12 }

        "mdy" if said.any? { |match| match[2].to_i > 12 }
      end
    end
  end
end
