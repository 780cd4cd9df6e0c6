# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # Trees that were stripped, several at once: what happened, when, and a line for each.
      class NewWoundsForm < Form
        params do
          required(:cause).filled(:string, included_in?: Core::Repair::Mending::CAUSES)
          optional(:happened_on).filled(Form::DAY)
          required(:found_on).filled(Form::DAY)
          required(:lines).filled(:string, max_size?: 4000)
          optional(:client_key).filled(:string, :uuid_v4?)
        end
      end
    end
  end
end
