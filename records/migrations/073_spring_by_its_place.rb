# frozen_string_literal: true

# Buds wake, fruit sets and what died is made again when spring comes to a place: what its grafts need is reckoned anew.
Sequel.migration do
  up { run "UPDATE care_states SET valid_until = '-infinity'" }
  down { run "UPDATE care_states SET valid_until = '-infinity'" }
end
