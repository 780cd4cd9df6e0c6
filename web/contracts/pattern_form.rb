# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # One plan for many trees: whole rows, single trees, or both.
      class PatternForm < Form
        params do
          optional(:rows).filled(:array, max_size?: 2000).each(:string, max_size?: 40)
          optional(:trees).filled(:string, max_size?: 4000)
          optional(:variety).filled(:integer, gt?: 0)
          required(:school).filled(:string, included_in?: Core::Rulebook.shipped.school_names)
          required(:seasons).filled(:integer, gteq?: 1, lteq?: 3)
          optional(:purpose).filled(:string, max_size?: 200)
          optional(:replace).filled(:bool)
          optional(:client_key).filled(:string, format?: /\A[0-9a-f-]{36}\z/)
        end

        # The trees that are named one by one, as they are said: A3, b 4.
        #
        # @return [Array<String>]
        def self.labels(text)
          text.to_s.upcase.scan(/[[:alpha:]]+\s*\d+|[^\s,;]+/).map { |word| word.gsub(/\s/, "") }.uniq
        end

        # The trees of an orchard that a form chooses, in walking order.
        #
        # @return [Array<Integer>] ids
        # @raise [Deeds::Refused] naming what is no tree there
        def self.chosen(orchard, values)
          labels = labels(values[:trees])
          found = orchard.tree_ids_of_labels(labels)
          strange = labels - found.keys
          raise Deeds::Refused, trees: ["#{strange.first(3).join(', ')}: no such tree here"] if strange.any?

          orchard.tree_ids_of_rows(values[:rows] || [], more: found.values)
        end
      end
    end
  end
end
