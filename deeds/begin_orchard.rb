# frozen_string_literal: true

module Vestry
  module Deeds
    # A new orchard without a tree; whoever begins it is its steward.
    module BeginOrchard
      module_function

      # @param values [Hash] of Records::Orchard, without its address
      # @param account [Records::Account, nil] its steward, where there is one yet
      # @return [Records::Orchard]
      def call(values, account: nil)
        DB.transaction do
          orchard = address(values.fetch(:name)) { |slug| Records::Orchard.create(values.merge(slug: slug)) }
          if account
            Ledger.add(Records::Membership, { orchard_id: orchard.id, account_id: account.id, role: "steward" },
                       by: account.name, why: "began it")
          end
          Ledger.event(orchard, { "begun" => orchard.name }, by: account&.name || "the installation")
          orchard
        end
      end

      # An orchard's name in small letters, numbered where that is taken. Where two take one at the same moment, the
      # later tries the next.
      #
      # @yield [String] the address
      # @return what the block returns
      def address(name, tries: 50)
        plain = name.unicode_normalize(:nfkd).encode("ASCII", undef: :replace, replace: "").downcase.scan(/[a-z0-9]+/)
          .join("-")[0, 50]
        plain = "orchard" if plain.empty?
        taken = Records::Orchard.slugs_like(plain)
        free = [plain, *(2..9_999).map { |number| "#{plain}-#{number}" }].find { |each| !taken.include?(each) }
        DB.transaction(savepoint: true) { yield free }
      rescue Sequel::UniqueConstraintViolation
        (tries -= 1).positive? ? retry : raise
      end
    end
  end
end
