# frozen_string_literal: true

module Vestry
  module Records
    module Archive
      # Files that lie in a zip. What they unpack to is counted as it comes out, whatever the zip declares.
      class Packed
        MEGABYTE = 1024 * 1024
        # All of it, and so many times what the zip itself measures: words in a table pack to a fifteenth at best.
        MOST_BYTES = 3 * 1024 * MEGABYTE
        MOST_RATIO = 100
        FREE_BYTES = 20 * MEGABYTE
        MOST_ENTRIES = 100_000
        # A zip's end says how many entries it has; it lies in its last bytes.
        END_MARK = "PK\x05\x06".b
        LARGE_END_MARK = "PK\x06\x06".b
        END_BYTES = 70_000

        def initialize(path)
          few_entries(path)
          @most = [MOST_BYTES, (MOST_RATIO * File.size(path)) + FREE_BYTES].min
          @left = @most
          @zip = Zip::File.open(path)
        rescue Zip::Error => e
          raise Unreadable, "this is not a zip that can be read: #{e.message.lines.first.to_s.scrub('?').strip[0, 200]}"
        end

        def has?(name) = !@zip.find_entry(name).nil?
        def size(name) = [@zip.find_entry(name)&.size.to_i, @most].min

        # @param most [Integer, nil] so many bytes of it at most
        def open(name, most: nil)
          entry = @zip.find_entry(name)
          raise Unreadable, "#{name}: is a link and not a file" if entry.ftype == :symlink

          yield Counted.new(entry.get_input_stream, name, most) { |bytes| spend(bytes) }
        rescue Zip::Error, Zlib::Error => e
          raise Unreadable, "#{name}: cannot be unpacked (#{e.message.lines.first.to_s.scrub('?').strip[0, 100]})"
        end

        private

        # Before the list of entries is read, which takes room for each.
        def few_entries(path)
          tail = File.open(path, "rb") do |file|
            file.seek([-END_BYTES, -file.size].max, IO::SEEK_END) && file.read.to_s
          end
          at = tail.rindex(END_MARK) or raise Unreadable, "this is not a zip that can be read"
          large = tail.rindex(LARGE_END_MARK)
          count = large ? tail[large + 32, 8].to_s.unpack1("Q<").to_i : tail[at + 10, 2].to_s.unpack1("v").to_i
          raise Unreadable, "the zip has more than #{MOST_ENTRIES} files" if count > MOST_ENTRIES
        end

        def spend(bytes)
          @left -= bytes
          raise Unreadable, "the zip unpacks to more than #{@most / MEGABYTE} MB" if @left.negative?
        end

        # A stream whose bytes are counted as they are read.
        class Counted
          def initialize(stream, name, most, &spent)
            @stream = stream
            @name = name
            @most = most
            @spent = spent
            @through = 0
            @ahead = +"".b
          end

          def read(bytes = nil)
            return whole if bytes.nil?
            return next_piece(bytes) if @ahead.empty?

            @ahead.slice!(0, bytes)
          end

          # The first line, as far as its end or so many bytes.
          def gets(ends, most)
            while (at = @ahead.index(ends)).nil? && @ahead.bytesize < most
              @ahead << (next_piece(8192) || break)
            end
            line = @ahead.slice!(0, [at ? at + 1 : most, most].min)
            line.empty? ? nil : line
          end

          private

          def next_piece(bytes) = @stream.read(bytes)&.tap { |piece| count(piece.bytesize) }

          def whole
            parts = []
            while (piece = read(65_536))
              parts << piece
            end
            parts.join
          end

          def count(bytes)
            @through += bytes
            raise Unreadable, "#{@name}: is larger than #{@most / MEGABYTE} MB" if @most && @through > @most

            @spent.call(bytes)
          end
        end
        private_constant :Counted
      end
    end
  end
end
