# frozen_string_literal: true

module Vestry
  module Records
    # A short mark for each person who grafts here, to be written on the tape: initials, and a number
    # where two would be the same.
    module GrafterInitials
      # @param names [Array<String>]
      # @return [Hash{String=>String}] a mark by name
      def self.of(names)
        names.uniq.sort.each_with_object({}) do |name, marks|
          initials = name.split.map { |word| word[0].upcase }.join[0, 3]
          mark = [initials, *(2..99).map { |i| "#{initials}#{i}" }].find { |each| !marks.value?(each) }
          marks[name] = mark
        end
      end

      # Of everyone who may graft in an orchard.
      def self.in(orchard)
        of(Account.where(id: Membership.in_sight.where(orchard_id: orchard.id).select(:account_id)).select_map(:name))
      end
    end
  end
end
