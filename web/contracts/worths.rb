# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What a steward says that the old and the new crop are worth, from 0 to 1, as typed.
      module Worths
        NAMES = %i[old_worth new_worth].freeze

        module_function

        # @return [Hash] +old_worth+ and +new_worth+; nil for one that was left open
        # @raise [Deeds::Refused]
        def of(typed)
          NAMES.select { |name| typed.key?(name.to_s) }.to_h do |name|
            said = typed[name.to_s].to_s.strip
            number = Core::Values.number(said) unless said.empty?
            unless said.empty? || number&.between?(0, 1)
              raise Deeds::Refused, name => ["a crop's worth is a number from 0 (worthless) to 1 (all that could be " \
                                             "wished)"]
            end

            [name, number]
          end
        end
      end
    end
  end
end
