# frozen_string_literal: true

module Vestry
  module Outside
    # Letters, kept where a steward can read them: a stand-in for a mail service.
    module Outbox
      Letter = Struct.new(:address, :subject, :body, keyword_init: true)

      module_function

      def post(letter)
        account = DB[:accounts].where(email: letter.address.to_s.downcase).get(:id)
        DB[:letters].insert(account_id: account, address: letter.address, subject: letter.subject, body: letter.body)
      end

      # Letters to the members of an orchard, newest first.
      def of(orchard)
        members = DB[:memberships].where(orchard_id: orchard.id, hidden_at: nil).select(:account_id)
        DB[:letters].where(account_id: members).order(Sequel.desc(:sent_at), Sequel.desc(:id)).limit(100).all
      end
    end
  end
end
