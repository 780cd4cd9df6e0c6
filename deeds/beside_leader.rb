# frozen_string_literal: true

module Vestry
  module Deeds
    # A tree has one leader, which is the trunk itself above a height: what leaves the trunk above there grows on it,
    # and would go with it.
    module BesideLeader
      # @param values [Hash] +tag+, +fork_mm+, +leader+, and +parent+ or +parent_id+ of a limb
      # @param limbs [Array<Hash>] the tree's, in the same columns
      # @return [String, nil] what is wrong with it, in words
      def self.wrong(tree, values, limbs)
        others = limbs.reject { |other| other[:gone_on] || other[:hidden_at] || other[:tag].casecmp?(values[:tag]) }
        leader = others.find { |other| other[:leader] }
        return as_leader(tree, values, leader, others) if values[:leader]
        return unless leader && leader[:fork_mm] && on_trunk?(values) && values[:fork_mm].to_f > leader[:fork_mm]

        "above #{Core::Measure.say(leader[:fork_mm], tree.orchard.units)} the trunk is the leader #{leader[:tag]}: " \
          "say that it grows on #{leader[:tag]}"
      end

      # Under the lock of its tree.
      #
      # @raise [Refused]
      def self.check(tree)
        other = tree.standing_leader
        raise Refused, tag: [second(tree, other.tag)] if other
      end

      def self.as_leader(tree, values, leader, others)
        return second(tree, leader[:tag]) if leader

        above = values[:fork_mm] && others.find { |each| on_trunk?(each) && each[:fork_mm].to_f > values[:fork_mm] }
        above && "#{above[:tag]} leaves the trunk above it: the leader begins higher, or #{above[:tag]} is on it"
      end

      def self.second(tree, tag) = "#{tree.label} has a leader already: #{tag}"
      def self.on_trunk?(values) = !values[:parent] && !values[:parent_id]
      private_class_method :as_leader, :second, :on_trunk?
    end
  end
end
