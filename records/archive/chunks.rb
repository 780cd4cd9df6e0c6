# frozen_string_literal: true

module Vestry
  module Records
    module Archive
      # An IO in pieces, for COPY. A line without an end is not read to its end.
      class Chunks
        LONGEST_LINE = 256 * 1024

        # @param name [String] of the file
        # @yield [Integer] bytes of each piece that went by
        def initialize(io, name, &on_read)
          @io = io
          @name = name
          @on_read = on_read
          @since = 0
          @line = 2
        end

        def each
          while (piece = @io.read(65_536))
            measure(piece)
            @on_read.call(piece.bytesize)
            yield piece
          end
        end

        private

        def measure(piece)
          ends = piece.count("\n")
          @since = ends.zero? ? @since + piece.bytesize : piece.bytesize - piece.rindex("\n") - 1
          @line += ends
          if @since > LONGEST_LINE
            raise Unreadable, "#{@name} line #{@line}: is longer than #{LONGEST_LINE / 1024} kB"
          end
        end
      end
    end
  end
end
