# frozen_string_literal: true

require "zip"

module Vestry
  module Records
    # An orchard as open files: orchard.json, a CSV for each table, and its photos; in a folder or in one
    # zip. Rows name each other as people do: a tree by row and number (A3), a limb by its tag (A3 B), a
    # graft by its limb and day. What is written is read back the same, file by file.
    module Archive
      # The layout of the files; one that differs is refused.
      SCHEMA = "vestry-orchard-2"
      # Zip entries carry no time of their own, so that the same orchard gives the same files.
      TIMELESS = Zip::DOSTime.at(315_619_200)

      # How a cell begins that a spreadsheet would run.
      FORMULA = '^[=+\\-@\\t\\r|%]'

      # A file that cannot be read, with the place.
      class Unreadable < StandardError; end

      module_function

      # Reads a folder or a zip into a new orchard: all of it, or none.
      #
      # @param path [String]
      # @param slug [String, nil] its address here, where another than its own is wanted
      # @param trial [Boolean] pictures are looked at and not kept
      # @yield [Float] what share of it is through, 0..1
      # @return [Orchard]
      # @raise [Unreadable] naming file, line and column
      def read(path, slug: nil, trial: false, &far)
        DB.transaction do
          Reader.new(File.directory?(path) ? Folder.new(path) : Packed.new(path), slug: slug, trial: trial, far: far)
            .read
        end
      end

      # Writes the files into a folder.
      def write(orchard, folder)
        FileUtils.mkdir_p(folder)
        Writer.new(orchard).each do |name, content|
          File.open(File.join(folder, name).tap { |path| FileUtils.mkdir_p(File.dirname(path)) },
                    "wb") { |file| content.call(file) }
        end
      end

      # Writes them into one zip, a row at a time: memory does not grow with the orchard.
      #
      # @yield [Integer] how many rows are through
      def pack(orchard, path, &far)
        Zip::OutputStream.open(path) do |zip|
          Writer.new(orchard, far: far).each do |name, content|
            zip.put_next_entry(Zip::Entry.new(path, name, time: TIMELESS))
            content.call(zip)
          end
        end
      end

      # How many rows there are to write, changes aside.
      def rows(orchard) = Tables.all.sum { |table| DB[table.table].where(orchard_id: orchard.id).count }

      # One table's file, from an orchard's own.
      #
      # @param safe [Boolean] disarms what a spreadsheet would run as a formula
      def table(orchard, name, io, safe: false) = Writer.new(orchard).table(name, io, safe: safe)

      # Files that lie in a folder.
      class Folder
        def initialize(path) = @path = path
        def has?(name) = File.file?(File.join(@path, name))
        def size(name) = has?(name) ? File.size(File.join(@path, name)) : 0
        def open(name, **, &block) = File.open(File.join(@path, name), "rb", &block)
      end
    end
  end
end
