# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # Several varieties on one tree: who has more than its share, and how hard to prune each.
      module Balance
        extend Reckoning

        contract "balance", "Which varieties on a tree have more than their share, and how much to shorten each" do
          list :parts do
            key :id
            number :section_mm2, unit: "mm²", above: 0, help: "sum of the wood sections of what carries it"
            number :target_share, above: 0, most: 1, optional: true, help: "else all alike"
          end
        end

        # Leaf goes with wood section, so a part's share of the tree is its share of all sections;
        # index = share / target. Above 1.25 its new growth is shortened by min(0.6, 1 - 1/index).
        #
        # @return [Hash] +parts+ in their order, each +id+, +share+, +target+, +index+, +shorten+ (share of the new
        #   growth)
        def self.call(parts:, rulebook: Rulebook.shipped)
          total = parts.sum { |part| part[:section_mm2] }
          { parts: parts.map { |part| weigh(part, total, parts.size, rulebook) } }
        end

        def self.weigh(part, total, count, rulebook)
          share = part[:section_mm2] / total
          target = part[:target_share] || 1.0 / count
          index = share / target
          most = rulebook.value("reckoning.balance.shorten_most")
          shorten = index > rulebook.value("reckoning.balance.over") + Near::TOLERANCE ? [most, 1 - 1 / index].min : 0.0
          { id: part[:id], share: share, target: target, index: index, shorten: shorten }
        end
        private_class_method :weigh
      end
    end
  end
end
