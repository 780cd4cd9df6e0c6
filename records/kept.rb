# frozen_string_literal: true

module Vestry
  module Records
    # What follows from facts, kept for those who asked last under everything it follows from: when a
    # fact changes it is another question. Every process may keep its own; none is asked for another's.
    class Kept
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
        @gate.synchronize { return @known[mark] = @known.delete(mark) if @known.key?(mark) }
        yield.tap { |value| @gate.synchronize { @known.store(mark, value) && @known.size > @most && @known.shift } }
      end
    end
  end
end
