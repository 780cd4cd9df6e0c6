# frozen_string_literal: true

module Vestry
  module Records
    # What follows from facts, kept for those who asked last under everything it follows from: when a
    # fact changes it is another question. Every process may keep its own; none is asked for another's.
    class Kept
      MISSING = Object.new.freeze
      private_constant :MISSING

      @all = []
      class << self
        attr_reader :all

        # Forgets everything: the database under this process is another one now.
        def forget = all.each(&:forget)
      end

      # @param most [Integer] so many are kept; the one not asked for longest goes first
      def initialize(most)
        @most = most
        @known = {}
        @gate = Mutex.new
        self.class.all << self
      end

      def forget = @gate.synchronize { @known.clear }

      # @param mark [Object] what it follows from
      # @yieldreturn what follows, frozen or left alone by whoever asks
      def fetch(mark)
        known = @gate.synchronize { look(mark) }
        return known unless MISSING.equal?(known)

        yield.tap { |value| @gate.synchronize { store(mark, value) } }
      end

      # The same for many at once: what is not known yet is asked for together.
      #
      # @param marks [Array]
      # @yieldparam missing [Array] of the marks
      # @yieldreturn [Hash] a value for each of them
      # @return [Hash] in the order of the marks
      def many(marks)
        known = @gate.synchronize { marks.to_h { |mark| [mark, look(mark)] } }
        missing = known.select { |_, value| MISSING.equal?(value) }.keys
        return known if missing.empty?

        fresh = yield missing
        @gate.synchronize { missing.each { |mark| known[mark] = store(mark, fresh.fetch(mark)) } }
        known
      end

      private

      # What is known under a mark, which was asked for last now.
      def look(mark) = @known.delete(mark) { return MISSING }.tap { |value| @known[mark] = value }

      def store(mark, value)
        @known.store(mark, value)
        @known.shift if @known.size > @most
        value
      end
    end
  end
end
