# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # Someone new, by an invitation.
      class JoinForm < Form
        params do
          required(:name).filled(:string, max_size?: 80)
          required(:email).filled(:string, max_size?: 200, format?: /\A[^@\s]+@[^@\s]+\z/)
          required(:password).filled(:string)
          required(:again).filled(:string)
        end

        rule(:password) do
          Deeds::PasswordRule.fault(value, about: values.data.slice(:email, :name).values)&.then do |fault|
            key.failure(fault)
          end
        end
        rule(:password, :again) do
          key(:again).failure("is not the same as the password") if values[:password] != values[:again]
        end
      end
    end
  end
end
