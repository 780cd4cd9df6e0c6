# frozen_string_literal: true

require "csv"

module Vestry
  module Records
    # A table from elsewhere, read by its layout and handed on as one that is laid out as ours are: each line's fate,
    # then all of them written at once.
    class MatchedFile
      Unreadable = FileText::Unreadable

      # @param layout [Hash] as TableLayout takes it
      def initialize(orchard, kind, bytes, layout, today:, import: nil)
        @orchard = orchard
        @kind = kind
        @table = ForeignTable.new(bytes)
        @layout = TableLayout.new(kind, layout, register: Variety.by_name(orchard).keys)
        @today = today
        @import = import
        @cell_faults = {}
      end

      # @return [Array] each line's fate, with its line in the file as it came
      def fates
        @fates ||= read.fates.each_with_index.map do |fate, i|
          line = own_line(fate, i)
          fate.dup.tap { |own| own.line, own.fault = line, @cell_faults[line] || named(fate.fault) }
        end
      end

      # What each fate's line was understood to say.
      #
      # @return [Array<Hash{String=>String}>] by field, as it is kept, in the order of the fates
      def understood
        if @kind == "station"
          return fates.map { |fate| fate.values.except(:day).compact.to_h { |name, said| [name.to_s, said.to_s] } }
        end

        rows.map { |_, found| found.except("row", "number", "row_number", "tree", "tag", "limb_name") }
      end

      def faults = fates.select(&:fault)

      # @return [Array<Array(Integer, Hash)>] each line's number and what it says, by field, as it is kept
      # @raise [Unreadable] naming line and column of the first that cannot be read
      def lines
        rows.tap do
          line, fault = @cell_faults.min
          raise Unreadable, "line #{line}, #{fault}" if line
        end
      end

      def write(&progress)
        raise Unreadable, "line #{faults.first.line}: #{faults.first.fault}" if faults.any?

        read.write(&progress)
      end

      private

      def read
        @read ||= case @kind
                  when "station" then StationFile.new(@orchard, readings, import: @import)
                  when "trees", "limbs" then TreeFile.new(@orchard, @kind, text, today: @today, import: @import)
                  else TableFile.new(@orchard, @kind, text, import: @import)
                  end
      end

      # Rows by field, as they are kept; a station's days follow from many.
      def rows
        @rows ||= @table.rows.map { |line, cells| [line, fields(line, cells)] }
      end

      def fields(line, cells)
        found = @layout.constants.dup
        @layout.places.each do |name, column|
          said = reader.read(name, cells[column])
          found[name] = said if said
        rescue FigureReader::UnreadCell => e
          found[name] = cells[column].to_s.strip
          @cell_faults[line] ||= "column “#{@table.headings[column]}”: #{e.message}"
        end
        settle(found)
      end

      # What follows from fields that are not kept as they are.
      def settle(found)
        split(found, "row_number", FigureReader::TREE, %w[row number])
        split(found, "limb_name", FigureReader::LIMB, %w[tree tag])
        { "diameter_mm" => "girth_mm", "trunk_diameter_mm" => "trunk_girth_mm" }.each do |across, round|
          mm = found.delete(across) and found[round] ||= Core::Survey::Pictured.girth(mm.to_f).round(1).to_s
        end
        joined(found)
      end

      def split(found, field, shape, into)
        said = found.delete(field) or return
        match = shape.match(said)
        into.zip(match ? match.captures : [said]).each { |name, part| found[name] ||= part&.delete(" ") }
      end

      def joined(found)
        case @kind
        when "limbs" then found["tree"] = plain_tree(found)
        when "store_readings" then found["at"] = moment(found["at"] || found.values_at("day", "clock").join(" "))
        end
        found
      end

      # A moment that names no zone is one of the orchard's own.
      def moment(text)
        time, zoned = Core::Values.moment(text)
        zoned || time.nil? ? text : Outside::Clock.moment(@orchard.time_zone, time).utc.iso8601
      rescue TZInfo::PeriodNotFound
        # There is no such moment on the day on which clocks go forward.
        nil
      end

      # A1, as it is called here, of "A 1", "A-01" or a row and a number.
      def plain_tree(found)
        match = FigureReader::TREE.match(found["tree"].to_s)
        return found["tree"] || "#{found['row']}#{found['number']}" unless match

        "#{match[1]}#{match[2].to_i}"
      end

      def reader = @reader ||= FigureReader.new(@layout, comma: comma?)

      # Whether a comma is the point of its numbers: some are written so, and none with a point.
      def comma?
        cells = @layout.places.select { |name, _| @layout.field(name).type == "number" }
          .flat_map { |_, column| @table.cells(column) }
        cells.any? { |cell| cell.match?(/\A[-+]?\d+,\d+\b/) } &&
          cells.none? { |cell| cell.match?(/\A[-+]?\d+\.\d{1,2}\b/) }
      end

      # As a file of ours: a heading, and one line for each line of theirs.
      def text
        names = LayoutFields.headings(@kind)
        used = names.select { |name| rows.any? { |_, found| found.key?(name) } }
        CSV.generate do |csv|
          csv << used
          rows.each { |_, found| csv << used.map { |name| found[name]&.tr("\n", " ") } }
        end.b
      end

      def readings
        rows.map do |line, found|
          figures = %w[min_c max_c temperature_c rain_mm gust_ms].to_h { |name| [name.to_sym, found[name]&.to_f] }
          { line: line, day: Core::Values.day(found["day"]), clock: found["clock"], **figures }
        end
      end

      def own_line(fate, index) = @kind == "station" ? fate.line : @table.rows.fetch(index).first

      # What is said of a column, by their name for it.
      def named(fault)
        fault&.sub(/\Acolumn (\w+):/) do |said|
          place = @layout.place(Regexp.last_match(1))
          place ? "column “#{@table.headings[place]}”:" : said
        end
      end
    end
  end
end
