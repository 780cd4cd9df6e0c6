# frozen_string_literal: true

require "digest"

module Vestry
  module Web
    # What a page of an orchard follows from, for its ETag: a browser that has the page asks whether it still stands,
    # and is told so without its being made again. Pages that show more than the orchard's own tables carry none.
    module PageTag
      # Files come and go, settings show stand-ins and keys, and people their devices.
      WITHOUT = %w[files settings people].freeze

      module_function

      # @param env [Hash] of a request that the router let through
      # @param today [Date]
      # @return [String, nil] nil for a page that carries none
      def of(env, today, station)
        account, orchard = env.values_at("vestry.account", "vestry.orchard")
        return nil if orchard.nil? || WITHOUT.include?(station)

        request = Rack::Request.new(env)
        facts = [RELEASE, request.fullpath, request.get_header("HTTP_ACCEPT"), today.iso8601, *of_account(account),
                 account.name_in(orchard), env["vestry.role"], orchard.id, orchard.version, orchard.revisions.to_a,
                 env["rack.session"][:csrf]]
        Digest::SHA256.hexdigest(JSON.generate(facts))[0, 40]
      end

      def of_account(account)
        [account.id, account.name, account.orchards.map { |each| [each.slug, each.name] },
         Records::RepeatedRequest.latest(account)]
      end
      private_class_method :of_account
    end
  end
end
