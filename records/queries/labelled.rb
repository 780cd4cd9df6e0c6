# frozen_string_literal: true

module Vestry
  module Records
    # What a label leads to: the tree or limb of its code, among the orchards of whoever asks.
    module Labelled
      # As it may be typed off a label: small letters, and letters for the digits they look like.
      TAKEN_FOR = { "I" => "1", "L" => "1", "O" => "0", "U" => "V" }.freeze

      # So long a code is.
      LENGTH = 9

      module_function

      def code?(words) = plain(words).size == LENGTH

      # @param code [String] as it stands in the address
      # @param orchards [Array<Orchard>]
      # @return [Tree, Limb, nil] in sight; of two orchards that are one another's copy, that of the first
      def find(code, orchards)
        said = plain(code)
        orchards.each do |orchard|
          limb = Limb.where(orchard_id: orchard.id, code: said, hidden_at: nil).first
          return limb if limb && limb.tree.hidden_at.nil?

          tree = Tree.in_sight.first(orchard_id: orchard.id, code: said)
          return tree if tree
        end
        nil
      end

      def plain(code) = code.to_s[0, 40].upcase.gsub(/[^0-9A-Z]/, "").gsub(/[ILOU]/) { |sign| TAKEN_FOR[sign] }
    end
  end
end
